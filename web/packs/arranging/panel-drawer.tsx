import { kindName, kindWord } from "#core/panels/schemas.ts";
import { Suspense } from "react";
import { PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { ArrangeKept } from "../../panels/arrange/arrange-kept.tsx";
import { ArrangeLinks } from "../../panels/arrange/arrange-links.tsx";
import { ArrangeWords } from "../../panels/arrange/arrange-words.tsx";
import { viewOf } from "../../panels/index.ts";
import { Drawer } from "../../ui/drawer.tsx";
import { Button, Field } from "../../ui/form.tsx";
import { lackOf } from "./new-panel.ts";
import type { Arranging } from "./use-arranging.ts";

/** The settings of one panel. */
export function PanelDrawer({
  panel,
  choices,
  arranging,
  onClose,
}: {
  panel: PanelDefinition;
  choices: FrameChoices;
  arranging: Arranging;
  onClose: () => void;
}) {
  const { Arrange } = viewOf(panel.kind);
  const title = `Arrange ${kindName(panel.kind).replace(/^an? /, "the ")}`;
  return (
    <Drawer label={title} subject={panel.key} onClose={onClose}>
      <h2 className="font-serif text-[19px]">{title}</h2>
      <div className="mt-2">
        <Field label="Kind">
          <select
            className="field"
            value={panel.kind}
            onChange={(event) => arranging.changeKind(panel, event.target.value as PanelKind)}
          >
            {PANEL_KINDS.map((kind) => (
              <option key={kind} value={kind} disabled={kind !== panel.kind && lackOf(choices, kind) !== null}>
                {kindWord(kind)}
              </option>
            ))}
          </select>
        </Field>
        <p className="mt-0.5 text-[12.5px] text-slate">{viewOf(panel.kind).question}</p>
      </div>
      <Suspense fallback={<div className="waiting mt-4 h-40" />}>
        <Arrange panel={panel} dimensions={choices.dimensions} onChange={arranging.arrange} />
      </Suspense>
      <ArrangeWords panel={panel} onChange={arranging.arrange} />
      <ArrangeKept panel={panel} choices={choices} onChange={arranging.arrange} />
      <ArrangeLinks panel={panel} onChange={arranging.arrange} />
      <p className="mt-5 border-t border-thread pt-3">
        <Button onClick={() => arranging.remove([panel.key])}>Remove from this page</Button>
      </p>
    </Drawer>
  );
}
