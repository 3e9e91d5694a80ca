import { FIGURES } from "#contract/operations/figures.ts";
import { useState } from "react";
import { tableAsTsv, type PanelTable } from "#core/panels/parts/panel-table.ts";
import { operationPath } from "#contract/operations/operation.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import { TextButton } from "../ui/form.tsx";
import type { PanelChoice, PanelPlace } from "../client/asked-panel.ts";

/** The numbers behind a panel to take along: copied for a spreadsheet, or as a file at an address that stays. */
export function PanelNumbers({
  table,
  place,
  frame,
  choice = {},
}: {
  table: () => PanelTable;
  place: PanelPlace;
  frame: FrameAddress;
  choice?: PanelChoice;
}) {
  const [said, setSaid] = useState("");
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(tableAsTsv(table()));
      setSaid("Copied. Paste it into a spreadsheet.");
    } catch {
      setSaid("The browser did not allow copying. Download the CSV instead.");
    }
  };
  const address = operationPath(FIGURES.panelFile, { params: { ...place }, query: { ...frame, ...choice } });
  return (
    <span className="flex flex-wrap items-center gap-x-3 text-[12.5px] print:hidden">
      <TextButton onClick={() => void copy()}>Copy the numbers</TextButton>
      <a className="inline-flex min-h-[24px] items-center text-accent hover:underline" href={address} download>
        CSV
      </a>
      <span role="status" className="text-slate">
        {said}
      </span>
    </span>
  );
}
