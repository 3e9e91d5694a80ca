import { kindName, kindWord } from "#core/panels/schemas.ts";
import { useMemo, useState, Suspense } from "react";
import type { PanelKind } from "#core/panels/schemas.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Page } from "#contract/pack.ts";
import { panelFrame } from "#core/panels/panel-frame.ts";
import { useFrameParams } from "../../frame/frame-params.ts";
import { viewOf } from "../../panels/index.ts";
import { PanelBoundary } from "../panel-boundary.tsx";
import { DRAGGED_KIND } from "./dragged-kind.ts";
import { findKinds } from "./find-kind.ts";
import { lackOf, newPanelFor } from "./new-panel.ts";
import type { Arranging } from "./use-arranging.ts";
import type { AskedPanel } from "../../client/asked-panel.ts";

/** A preview is drawn at this width and made small. */
const DRAWN_WIDTH = 640;
const DRAWN_HEIGHT = 400;
const SHOWN_WIDTH = 176;

/** Where the kinds of panels lie, each drawn small with the page's own figures: dragged onto the page, or put there by a click. */
export function Rack({
  pack,
  page,
  choices,
  arranging,
}: {
  pack: string;
  page: Page;
  choices: FrameChoices;
  arranging: Arranging;
}) {
  const [wanted, setWanted] = useState("");
  const found = findKinds(wanted);
  return (
    <aside aria-label="Rack" className="rack">
      <h2 className="px-1 font-serif text-[16px]">Rack</h2>
      <p className="px-1 pb-1 text-[12px] text-slate">Drag a panel onto the page, or click it.</p>
      <input
        type="search"
        aria-label="Find a panel"
        placeholder="What do you want to show?"
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
        className="field mb-2 text-[13px]"
      />
      {found.length === 0 && (
        <p role="status" className="px-1 text-[12.5px] text-slate">
          No kind shows “{wanted}”. Try fewer words.
        </p>
      )}
      <ul className="grid gap-2">
        {found
          .map((own) => ({ ...own, lacks: lackOf(choices, own.kind) }))
          .map(({ kind, has, lacks }) => (
            <li key={kind}>
              <button
                type="button"
                draggable={lacks === null}
                disabled={lacks !== null}
                onDragStart={(event) => {
                  event.dataTransfer.setData(`${DRAGGED_KIND}-${kind}`, kind);
                  event.dataTransfer.setData("text/plain", kind);
                  event.dataTransfer.effectAllowed = "copy";
                }}
                onClick={() => arranging.add(kind)}
                title={viewOf(kind).question}
                aria-label={`Add ${kindName(kind)}: ${viewOf(kind).question}`}
                className="block w-full rounded border border-thread bg-panel text-left enabled:hover:border-accent disabled:text-slate"
              >
                <span className="block px-2 py-0.5 text-[13px] first-letter:uppercase">{kindWord(kind)}</span>
                <span className="block px-2 pb-1 text-[12px] leading-snug text-slate">
                  {has === null ? viewOf(kind).question : `Shows ${has}`}
                </span>
                {lacks === null ? (
                  <Preview pack={pack} page={page} choices={choices} kind={kind} />
                ) : (
                  <span className="block px-2 pb-2 text-[12px]">{lacks}</span>
                )}
              </button>
            </li>
          ))}
      </ul>
    </aside>
  );
}

/** A kind with the page's own figures, drawn small; nothing in it answers. */
function Preview({ pack, page, choices, kind }: { pack: string; page: Page; choices: FrameChoices; kind: PanelKind }) {
  const { frame } = useFrameParams();
  const props = useMemo(() => {
    const panel = viewOf(kind).create({ ...newPanelFor(page, choices, kind), key: `rack-${kind}` });
    const asked: AskedPanel = {
      place: { pack, page: page.key, panel: panel.key },
      panel,
      frame: panelFrame(panel, frame),
      pageFrame: frame,
      choice: {},
      pageScope: page.scope,
      storedAmong: null,
    };
    const nothing = () => {};
    return {
      panel,
      asked,
      choice: {},
      picked: {},
      part: null,
      leads: null,
      standing: null,
      ordinal: 1,
      actions: { choose: nothing, ask: nothing, pick: undefined, follow: nothing, arrange: undefined },
    };
  }, [pack, page, choices, kind, frame]);
  const { Panel } = viewOf(kind);
  const scale = SHOWN_WIDTH / DRAWN_WIDTH;
  return (
    <span
      aria-hidden="true"
      inert
      className="pointer-events-none block overflow-hidden rounded-b"
      style={{ width: SHOWN_WIDTH, height: DRAWN_HEIGHT * scale }}
    >
      <span
        className="block origin-top-left"
        style={{ width: DRAWN_WIDTH, height: DRAWN_HEIGHT, transform: `scale(${scale})` }}
      >
        <PanelBoundary of={props}>
          <Suspense fallback={null}>
            <Panel {...props} />
          </Suspense>
        </PanelBoundary>
      </span>
    </span>
  );
}
