import { kindName, kindWord } from "#core/panels/schemas.ts";
import { Copy, GripVertical, Settings2, Trash2 } from "lucide-react";
import {
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
  type RefObject,
} from "react";
import ReactGridLayout, { verticalCompactor, type Layout, type LayoutItem } from "react-grid-layout";
import { closeUpWithOpen, openKey, type OpenPlace } from "#core/layout/patterns.ts";
import { GRID_COLUMNS, overlap, ROW_HEIGHT, type Place, type Places } from "#core/layout/place.ts";
import { PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import { isReadable, type Page, type PlacedPanel } from "#contract/pack.ts";
import { PANEL_SCHEMAS } from "#core/panels/schemas.ts";
import { IconButton } from "../../ui/form.tsx";
import { useSize } from "../../ui/use-size.ts";
import { PanelHost } from "../panel-host.tsx";
import type { PageView } from "../use-page-view.ts";
import { scrollAtEdges } from "./edge-scroll.ts";
import { DRAGGED_KIND } from "./dragged-kind.ts";
import type { Arranging } from "./use-arranging.ts";

/** Half of the gutter between panels: it belongs to each cell. */
const GUTTER = 6;
const LEAST_COLUMNS = 3;
const LEAST_ROWS = 5;

/** A page's panels with handles: dragged and sized in the grid, chosen, moved by the keyboard. */
export function ArrangeGrid({ page, view, arranging }: { page: Page; view: PageView; arranging: Arranging }) {
  const [{ width }, holder] = useSize();
  const [needed, setNeeded] = useState<Readonly<Record<string, number>>>({});
  const open = useMemo(() => page.look.open ?? [], [page.look.open]);
  const closed = useMemo(() => {
    const places = Object.fromEntries(
      page.panels.map(({ key, place }) => [key, { ...place, h: Math.max(place.h, needed[key] ?? 0) }]),
    );
    return closeUpWithOpen(places, open);
  }, [page.panels, open, needed]);
  const layout = useMemo(() => layoutOf(page, closed.places, closed.open, needed), [page, closed, needed]);
  const propsOf = new Map(view.panels.map(({ key, props }) => [key, props]));
  const drop = useRef<PanelKind | null>(null);
  const endScrolling = useRef<() => void>(undefined);
  useEffect(() => () => endScrolling.current?.(), []);
  const stopScrolling = () => endScrolling.current?.();
  const beginScrolling = () => {
    stopScrolling();
    endScrolling.current = scrollAtEdges();
  };

  /** What the grid made of a drag or of sizing, as an edit. A panel keeps its own height, unless that was what changed. */
  const commit = (next: Layout, moved: LayoutItem | null, isSized: boolean) => {
    if (!moved) return;
    const placed = Object.fromEntries(
      next.flatMap((item): [string, Place][] => {
        const own = page.panels.find((panel) => panel.key === item.i);
        if (!own) return [];
        return [[item.i, { x: item.x, y: item.y, w: item.w, h: isSized && item.i === moved.i ? item.h : own.place.h }]];
      }),
    );
    const left = open.map((one, i) => placeOfOpen(one, next, i));
    const filled = isSized ? -1 : closed.open.findIndex(({ place }) => isDroppedInto(moved, place));
    if (filled >= 0) {
      const filling = { ...placed, [moved.i]: closed.open[filled]!.place };
      arranging.place(filling, left, filled);
    } else arranging.place(placed, left);
  };
  return (
    <div
      ref={holder}
      className="arrange-grid"
      onPointerDown={(event) => drawBox(event, holder.current, arranging.choose)}
    >
      {width > 0 && (
        <ReactGridLayout
          width={width}
          layout={layout}
          compactor={verticalCompactor}
          gridConfig={{
            cols: GRID_COLUMNS,
            rowHeight: ROW_HEIGHT,
            margin: [0, 0],
            containerPadding: [0, 0],
            maxRows: Infinity,
          }}
          dragConfig={{ enabled: true, handle: ".panel-grip", bounded: false, threshold: 3 }}
          resizeConfig={{ enabled: true, handles: ["se", "e", "s"] }}
          dropConfig={{
            enabled: true,
            defaultItem: { w: 12, h: 40 },
            onDragOver: (event) => {
              const kind = kindOf(event.dataTransfer?.types ?? []);
              drop.current = kind;
              return kind ? PANEL_SCHEMAS[kind].size : false;
            },
          }}
          onDragStart={beginScrolling}
          onResizeStart={beginScrolling}
          onDragStop={(next, _before, moved) => {
            stopScrolling();
            commit(next, moved, false);
          }}
          onResizeStop={(next, _before, moved) => {
            stopScrolling();
            commit(next, moved, true);
          }}
          onDrop={(_next, item) => {
            const kind = drop.current;
            drop.current = null;
            if (!kind || !item) return;
            const filled = closed.open.findIndex(({ place }) => isDroppedInto(item, place));
            if (filled >= 0) arranging.fill(filled, kind);
            else arranging.add(kind, { x: item.x, y: item.y, w: item.w, h: item.h });
          }}
        >
          {[
            ...page.panels.map((placed) => (
              <div key={placed.key}>
                <Handled
                  placed={placed}
                  isChosen={arranging.chosen.includes(placed.key)}
                  arranging={arranging}
                  onNeed={(rows) =>
                    setNeeded((now) => (now[placed.key] === rows ? now : { ...now, [placed.key]: rows }))
                  }
                >
                  <PanelHost
                    placed={placed}
                    props={propsOf.get(placed.key)}
                    onRemove={() => arranging.remove([placed.key])}
                  />
                </Handled>
              </div>
            )),
            ...closed.open.map((one, i) => (
              <div key={openKey(i)}>
                <OpenCell open={one} onFill={(kind) => arranging.fill(i, kind)} />
              </div>
            )),
          ]}
        </ReactGridLayout>
      )}
    </div>
  );
}

function layoutOf(
  page: Page,
  places: Places,
  open: readonly OpenPlace[],
  needed: Readonly<Record<string, number>>,
): LayoutItem[] {
  return [
    ...page.panels.map(({ key }) => ({
      i: key,
      ...places[key]!,
      minW: LEAST_COLUMNS,
      minH: Math.max(LEAST_ROWS, needed[key] ?? 0),
    })),
    ...open.map(({ place }, i) => ({ i: openKey(i), ...place, isDraggable: false, isResizable: false })),
  ];
}

function placeOfOpen(one: OpenPlace, layout: Layout, index: number): OpenPlace {
  const item = layout.find(({ i }) => i === openKey(index));
  return item ? { ...one, place: { x: item.x, y: item.y, w: item.w, h: item.h } } : one;
}

/** Whether a panel's middle was let go over a place. */
function isDroppedInto({ x, y, w, h }: Place, place: Place): boolean {
  const middle = { x: x + Math.floor(w / 2), y: y + Math.min(Math.floor(h / 2), Math.floor(place.h / 2)), w: 1, h: 1 };
  return overlap(middle, place);
}

function kindOf(types: Iterable<string>): PanelKind | null {
  const start = `${DRAGGED_KIND}-`;
  const found = [...types].find((type) => type.startsWith(start))?.slice(start.length);
  return PANEL_KINDS.find((kind) => kind === found) ?? null;
}

/** A panel with what it is taken by. */
function Handled({
  placed,
  isChosen,
  arranging,
  onNeed,
  children,
}: {
  placed: PlacedPanel;
  isChosen: boolean;
  arranging: Arranging;
  /** Hears how many rows the panel needs, so that nothing of it is cut off. */
  onNeed: (rows: number) => void;
  children: ReactNode;
}) {
  const { key, definition } = placed;
  const cell = useRef<HTMLDivElement>(null);
  useNeededRows(cell, onNeed);
  const name = definition.title ?? (isReadable(definition) ? kindWord(definition.kind) : key);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const keys = isChosen ? arranging.chosen : [key];
    const step = STEPS[event.key];
    const isCommand = event.ctrlKey || event.metaKey;
    if (step) arranging.step(keys, step, event.shiftKey ? "resize" : "move");
    else if (event.key === "Enter") arranging.settings(key);
    else if (event.key === " ") arranging.toggle(key);
    else if (event.key === "Delete" || event.key === "Backspace") arranging.remove(keys);
    else if (isCommand && event.key === "d") arranging.duplicate(keys);
    else if (isCommand && event.key === "c") arranging.copy(keys);
    else if (isCommand && event.key === "x") arranging.cut(keys);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  // A panel is moved, sized and chosen as one thing, whatever controls stand in it: no role of a control says that.
  /* oxlint-disable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */
  return (
    <div
      ref={cell}
      role="group"
      tabIndex={0}
      data-panel={key}
      aria-label={`Panel ${name}${isChosen ? ", chosen" : ""}. Arrows move it, Shift and arrows size it, Space chooses it, Enter opens its settings.`}
      className={`panel-handled group ${isChosen ? "is-chosen" : ""}`}
      style={{ padding: GUTTER }}
      onKeyDown={onKeyDown}
      onClickCapture={(event) => {
        if (event.shiftKey) {
          event.preventDefault();
          event.stopPropagation();
          arranging.toggle(key);
        }
      }}
      onClick={(event) => {
        const isControl = (event.target as HTMLElement).closest("button, a, input, textarea, select");
        if (!isControl && !event.shiftKey) arranging.choose([key]);
      }}
    >
      {children}
      <div className="panel-tools" role="toolbar" aria-label={`Panel ${name}`}>
        <span className="panel-grip" title="Drag to move" aria-hidden="true">
          <GripVertical size={14} />
        </span>
        <IconButton label={`Settings of ${name}`} onClick={() => arranging.settings(key)}>
          <Settings2 size={14} />
        </IconButton>
        <IconButton label={`Duplicate ${name}`} onClick={() => arranging.duplicate([key])}>
          <Copy size={14} />
        </IconButton>
        <IconButton label={`Take ${name} off the page`} onClick={() => arranging.remove([key])}>
          <Trash2 size={14} />
        </IconButton>
      </div>
    </div>
  );
  /* oxlint-enable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex */
}

const STEPS: Readonly<Record<string, { dx: number; dy: number }>> = {
  ArrowLeft: { dx: -1, dy: 0 },
  ArrowRight: { dx: 1, dy: 0 },
  ArrowUp: { dx: 0, dy: -1 },
  ArrowDown: { dx: 0, dy: 1 },
};

/** Follows how high the content of a cell is by itself, in rows. */
function useNeededRows(cell: RefObject<HTMLElement | null>, onNeed: (rows: number) => void): void {
  const tell = useRef(onNeed);
  useLayoutEffect(() => {
    tell.current = onNeed;
  });
  useEffect(() => {
    const element = cell.current;
    if (!element) return undefined;
    let frame = 0;
    const measure = () => {
      frame = 0;
      const body = element.querySelector<HTMLElement>(":scope > section > div:last-of-type");
      if (!body) return;
      const height = [...body.children].reduce(
        (sum, child) => sum + Math.max((child as HTMLElement).offsetHeight, child.scrollHeight),
        0,
      );
      // What fills its place takes more than it needs.
      const filling = element.querySelector<HTMLElement>("[data-fill]");
      const surplus = filling ? Math.max(0, filling.clientHeight - Number(filling.dataset["fill"])) : 0;
      tell.current(Math.ceil((height - surplus + 2 * GUTTER + 2) / ROW_HEIGHT));
    };
    const soon = () => (frame ||= requestAnimationFrame(measure));
    const sizes = new ResizeObserver(soon);
    sizes.observe(element);
    const contents = new MutationObserver(soon);
    contents.observe(element, { childList: true, subtree: true });
    soon();
    return () => {
      sizes.disconnect();
      contents.disconnect();
      cancelAnimationFrame(frame);
    };
  }, [cell]);
}

/** A place that a panel is still to fill. */
function OpenCell({ open: { wants }, onFill }: { open: OpenPlace; onFill: (kind: PanelKind) => void }) {
  const kinds = wants.filter((kind): kind is PanelKind => (PANEL_KINDS as readonly string[]).includes(kind));
  return (
    <div className="h-full" style={{ padding: GUTTER }}>
      <div className="grid h-full place-content-center gap-1 rounded-md border border-dashed border-slate text-center">
        <p className="text-slate">Empty place: drop a panel here, or add</p>
        <p className="flex flex-wrap justify-center gap-x-3">
          {(kinds.length > 0 ? kinds : PANEL_KINDS).map((kind) => (
            <button
              key={kind}
              type="button"
              className="min-h-[24px] text-accent hover:underline"
              onClick={() => onFill(kind)}
            >
              {kindName(kind)}
            </button>
          ))}
        </p>
      </div>
    </div>
  );
}

/** Draws a box over the page's ground; the panels it meets are chosen when it is let go. */
function drawBox(
  event: PointerEvent<HTMLElement>,
  holder: HTMLElement | null,
  choose: (keys: readonly string[]) => void,
): void {
  const target = event.target as HTMLElement;
  if (!holder || event.button !== 0 || target.closest("[data-panel], button")) return;
  const start = { x: event.clientX, y: event.clientY };
  const box = document.createElement("div");
  box.className = "drawn-box";
  const at = (to: { clientX: number; clientY: number }) => ({
    left: Math.min(start.x, to.clientX),
    top: Math.min(start.y, to.clientY),
    right: Math.max(start.x, to.clientX),
    bottom: Math.max(start.y, to.clientY),
  });
  const move = (to: globalThis.PointerEvent) => {
    const { left, top, right, bottom } = at(to);
    Object.assign(box.style, {
      left: `${left}px`,
      top: `${top}px`,
      width: `${right - left}px`,
      height: `${bottom - top}px`,
    });
    if (!box.isConnected) document.body.append(box);
  };
  const end = (to: globalThis.PointerEvent) => {
    window.removeEventListener("pointermove", move);
    window.removeEventListener("pointerup", end);
    box.remove();
    const area = at(to);
    const met = [...holder.querySelectorAll<HTMLElement>("[data-panel]")].filter((element) => {
      const own = element.getBoundingClientRect();
      return own.left < area.right && area.left < own.right && own.top < area.bottom && area.top < own.bottom;
    });
    choose(met.map((element) => element.dataset["panel"]!));
  };
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", end);
}
