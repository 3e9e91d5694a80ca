import { LayoutGrid } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { equalPlaces, PATTERNS, type OpenPlace, type Pattern } from "#core/layout/patterns.ts";
import { rowsOf } from "#core/layout/close-up.ts";
import { GRID_COLUMNS } from "#core/layout/place.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { readablePanels, type Page } from "#contract/pack.ts";
import type { PanelToPut } from "../editing/page-edits.ts";
import type { Arranging } from "./use-arranging.ts";

/** At most so many panels are made of one by the members of a dimension. */
const MOST_REPEATED = 12;

/** The layouts that a page can take, each drawn small. */
export function PatternMenu({ page, choices, arranging }: { page: Page; choices: FrameChoices; arranging: Arranging }) {
  const [isOpen, setOpen] = useState(false);
  const take = (action: () => void) => () => {
    setOpen(false);
    action();
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className="inline-flex min-h-7 items-center gap-1 rounded px-1.5 text-accent hover:underline">
        <LayoutGrid size={14} aria-hidden="true" /> Pattern
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          className="popover w-[min(40rem,94vw)] p-3"
          aria-label="Layout patterns"
        >
          <p className="text-[13px] text-slate">
            What is this page for? Its panels stay, in new places; places without a panel wait to be filled.
          </p>
          <ul className="mt-2 grid grid-cols-3 gap-2 max-sm:grid-cols-2">
            {PATTERNS.map((pattern) => (
              <li key={pattern.key}>
                <button
                  type="button"
                  onClick={take(() => arranging.pattern(pattern))}
                  className="h-full w-full rounded border border-thread p-2 text-left hover:border-accent"
                >
                  <PatternDrawing places={pattern.places} />
                  <span className="mt-1 block font-semibold">{pattern.name}</span>
                  <span className="block text-[12.5px] text-slate">{pattern.purpose}</span>
                </button>
              </li>
            ))}
          </ul>
          <RepeatByMembers
            page={page}
            choices={choices}
            onTake={(panels, places) => take(() => arranging.repeat(panels, places))()}
            chosen={arranging.chosen}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function PatternDrawing({ places }: Pick<Pattern, "places">) {
  const rows = rowsOf(Object.fromEntries(places.map(({ place }, i) => [String(i), place])));
  return (
    <svg
      aria-hidden="true"
      viewBox={`0 0 ${GRID_COLUMNS * 4} ${rows}`}
      preserveAspectRatio="none"
      className="h-16 w-full"
    >
      {places.map(({ place: { x, y, w, h } }, i) => (
        <rect
          key={i}
          x={x * 4 + 1}
          y={y + 1}
          width={w * 4 - 2}
          height={Math.max(1, h - 2)}
          fill="var(--chosen)"
          stroke="var(--slate)"
          strokeWidth=".7"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** One panel, repeated by the members of a dimension: each copy keeps its member, whatever the page is for. */
function RepeatByMembers({
  page,
  choices,
  chosen,
  onTake,
}: {
  page: Page;
  choices: FrameChoices;
  chosen: readonly string[];
  onTake: (panels: readonly PanelToPut[], places: readonly OpenPlace[]) => void;
}) {
  const panels = readablePanels(page);
  const [panelKey, setPanel] = useState(chosen[0] ?? panels[0]?.key ?? "");
  const [dimensionKey, setDimension] = useState(choices.dimensions[0]?.key ?? "");
  const panel = panels.find(({ key }) => key === panelKey) ?? panels[0];
  const dimension = choices.dimensions.find(({ key }) => key === dimensionKey);
  const members = dimension?.members.filter(({ parent }) => parent === null).slice(0, MOST_REPEATED) ?? [];
  if (!panel || choices.dimensions.length === 0) return null;
  const take = () => {
    const places = equalPlaces(members.length, panel.place.h, Math.min(3, members.length), panel.definition.kind);
    onTake(
      members.map(({ key, name }) => ({
        definition: {
          ...panel.definition,
          title: name,
          holds: { ...panel.definition.holds, scope: `${dimensionKey}:${key}` },
        },
        size: panel.place,
      })),
      places,
    );
  };
  return (
    <div className="mt-3 flex flex-wrap items-end gap-2 border-t border-thread pt-2 text-[13px]">
      <label className="grid gap-0.5">
        <span className="text-slate">Repeat the panel</span>
        <select className="field" value={panel.key} onChange={(event) => setPanel(event.target.value)}>
          {panels.map(({ key, definition }) => (
            <option key={key} value={key}>
              {definition.title ?? key}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-0.5">
        <span className="text-slate">by the members of</span>
        <select className="field" value={dimensionKey} onChange={(event) => setDimension(event.target.value)}>
          {choices.dimensions.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {members.length === 0 ? (
        <p className="pb-1 text-slate">{dimension?.name} has no members in scope.</p>
      ) : (
        <button type="button" className="min-h-7 text-accent hover:underline" onClick={take}>
          Put {members.length} side by side
        </button>
      )}
    </div>
  );
}
