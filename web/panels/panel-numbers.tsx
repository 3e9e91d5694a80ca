import { useState } from "react";
import { panelTable, tableAsTsv } from "#contract/panel-table.ts";
import type { PanelAnswer } from "#contract/panels.ts";
import { withQuery } from "../app/api.ts";
import type { FrameParams, PanelChoice } from "../app/questions.ts";
import { TextButton } from "../ui/form.tsx";
import { panelPath, type PanelPlace } from "./panel-place.ts";

/** The numbers behind a panel to take along: copied for a spreadsheet, or as a file at an address that stays. */
export function PanelNumbers({
  answer,
  place,
  frame,
  choice = {},
}: {
  answer: PanelAnswer;
  place: PanelPlace;
  frame: FrameParams;
  choice?: PanelChoice;
}) {
  const [said, setSaid] = useState("");
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(tableAsTsv(panelTable(answer)));
      setSaid("Copied: paste it into a spreadsheet.");
    } catch {
      setSaid("The browser did not let it be copied. Take the CSV instead.");
    }
  };
  const address = withQuery(`${panelPath(place)}.csv`, { ...frame, ...choice });
  return (
    <span className="flex flex-wrap items-center gap-x-3 text-[12.5px] print:hidden">
      <TextButton onClick={() => void copy()}>Copy the numbers</TextButton>
      <a className="text-indigo hover:underline" href={address} download>
        CSV
      </a>
      <span role="status" className="text-slate">
        {said}
      </span>
    </span>
  );
}
