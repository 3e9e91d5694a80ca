import { useState } from "react";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Pack, Page } from "#contract/pack.ts";
import { ScopeChooser } from "../../frame/scope-chooser.tsx";
import { Drawer } from "../../ui/drawer.tsx";
import { Field, TextField, Tick } from "../../ui/form.tsx";
import type { PackEditor } from "../editing/pack-editor.ts";
import { withPage } from "../editing/page-edits.ts";
import { draftedFoot } from "../page-foot.tsx";
import { PageHistory } from "./page-history.tsx";
import type { Arranging } from "./use-arranging.ts";

/** What a page says and does besides its panels, and what was done to it. */
export function PageDrawer({
  pack,
  page,
  choices,
  arranging,
  editor,
  onClose,
}: {
  pack: Pack;
  page: Page;
  choices: FrameChoices;
  arranging: Arranging;
  editor: PackEditor;
  onClose: () => void;
}) {
  const { look } = page;
  const place = { pack: pack.key, page: page.key };
  const [isScoped, setScoped] = useState(Object.keys(page.scope).length > 0);
  const write = (part: "headline" | "subtitle" | "footer") => (text: string) =>
    arranging.look({ [part]: text === "" ? undefined : text });
  const rename = (name: string) => {
    if (name !== "") editor.edit((records) => withPage(records, place, (own) => ({ ...own, name })));
  };
  const group = (text: string) =>
    editor.edit((records) =>
      withPage(records, place, ({ group: _, ...own }) => (text === "" ? own : { ...own, group: text })),
    );
  const scope = (text: string) =>
    editor.edit((records) => withPage(records, place, (own) => ({ ...own, scope: parseScope(text) ?? {} })));
  return (
    <Drawer label="Arrange the page" subject="page" onClose={onClose}>
      <h2 className="font-serif text-[19px]">The page</h2>
      <div className="mt-2 grid gap-2">
        <TextField label="Name" value={page.name} whenLeft onCommit={rename} />
        <TextField label="Subtitle (empty: none)" value={page.group ?? ""} whenLeft onCommit={group} />
        <TextField
          label="Headline (empty: drafted)"
          value={look.headline ?? ""}
          whenLeft
          onCommit={write("headline")}
        />
        <TextField label="Subtitle" value={look.subtitle ?? ""} whenLeft onCommit={write("subtitle")} />
        <TextField label="Footer (empty: drafted)" value={look.footer ?? ""} whenLeft onCommit={write("footer")} />
        <p className="text-[12.5px] text-slate">Drafted: {draftedFoot(page, choices)}</p>
        <Field label="Clicking a mark">
          <select
            className="field"
            value={look.click ?? "narrow"}
            onChange={(event) => arranging.look({ click: event.target.value === "weigh" ? "weigh" : undefined })}
          >
            <option value="narrow">narrows the page to it</option>
            <option value="weigh">shows its part in every other panel</option>
          </select>
        </Field>
        <Tick
          label="Use one scale for charts of the same unit"
          isOn={look.sharesScale ?? false}
          onChange={(sharesScale) => arranging.look({ sharesScale: sharesScale || undefined })}
        />
        <Tick
          label="Show the headline on a band"
          isOn={look.isBanded ?? false}
          onChange={(isOn) => arranging.look({ isBanded: isOn || undefined })}
        />
      </div>
      <section aria-label="Scope of the page" className="mt-4 border-t border-thread pt-3">
        <h3 className="font-serif text-[16px]">Purpose</h3>
        <Tick
          label="Default scope of the page"
          isOn={isScoped}
          onChange={(isOn) => {
            setScoped(isOn);
            if (!isOn) scope("");
          }}
        />
        {isScoped && <ScopeChooser structure={choices} chosen={formatScope(page.scope)} onChoose={scope} />}
      </section>
      <PageHistory pack={pack} page={page} />
    </Drawer>
  );
}
