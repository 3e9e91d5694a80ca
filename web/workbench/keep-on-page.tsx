import { SESSION } from "#contract/operations/session.ts";
import { PACKS } from "#contract/operations/packs.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { call } from "../client/api.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import { panelToPut, putPanels } from "../packs/editing/page-edits.ts";
import { packEditor } from "../packs/editing/use-pack-editor.ts";
import { Button, Field } from "../ui/form.tsx";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** Keeps what is looked at as a panel of a page, with what was chosen of the frame. */
export function KeepOnPage({ panel, frame }: { panel: PanelDefinition; frame: FrameAddress }) {
  const packs = useAnswer(PACKS.packs).data?.filter((pack) => !pack.isRetired && pack.pages.length > 0) ?? [];
  const person = useAnswer(SESSION.session).data?.email ?? "";
  const mayEdit = useMayEdit();
  const client = useQueryClient();
  const [place, setPlace] = useState("");
  const [kept, setKept] = useState<{ address: string; name: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  if (!mayEdit || packs.length === 0) return null;
  const chosen = place || `${packs[0]!.key}/${packs[0]!.pages[0]!.key}`;
  const keep = async () => {
    const [pack = "", page = ""] = chosen.split("/");
    setProblem(null);
    try {
      const editor = packEditor(client, pack, person);
      editor.rebase(await call(PACKS.pack, { params: { pack } }));
      const { asOf: _, unit: __, pack: ___, page: ____, narrow: _____, ...chosenParts } = frame;
      const holds = Object.fromEntries(Object.entries(chosenParts).filter(([, value]) => value !== undefined));
      const own = Object.keys(holds).length === 0 ? panel : { ...panel, holds };
      editor.edit((records) => putPanels(records, { pack, page }, [panelToPut(own)]).records);
      await editor.settled();
      const { problem: refused } = editor.store.getState();
      if (refused) throw new Error(refused);
      const name = packs.find(({ key }) => key === pack)?.pages.find(({ key }) => key === page)?.name ?? page;
      setKept({ address: `/packs/${pack}/${page}`, name });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      <Field label="Add it as a panel to">
        <select
          className="field"
          value={chosen}
          onChange={(event) => {
            setPlace(event.target.value);
            setKept(null);
          }}
        >
          {packs.map((pack) => (
            <optgroup key={pack.key} label={pack.name}>
              {pack.pages.map((page) => (
                <option key={page.key} value={`${pack.key}/${page.key}`}>
                  {page.name}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
      </Field>
      <Button kind="main" onClick={() => void keep()}>
        Add panel
      </Button>
      {kept && (
        <p role="status">
          It stands on{" "}
          <Link className="text-accent underline" to={kept.address}>
            {kept.name}
          </Link>
          .
        </p>
      )}
      {problem && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}
