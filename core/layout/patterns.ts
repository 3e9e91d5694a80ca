import { closeUp, rowsOf } from "./close-up.ts";
import { flow } from "./put.ts";
import { GRID_COLUMNS, readingOrder, type Place, type Places } from "./place.ts";

/** A place of a pattern that a panel fills, with the kinds that belong there, the best first. */
export interface OpenPlace {
  readonly place: Place;
  readonly wants: readonly string[];
}

/** A page's layout with places for panels, by what the page is for. */
export interface Pattern {
  readonly key: string;
  readonly name: string;
  /** What pages it is for. */
  readonly purpose: string;
  readonly places: readonly OpenPlace[];
}

const at = (x: number, y: number, w: number, h: number, ...wants: string[]): OpenPlace => ({
  place: { x, y, w, h },
  wants,
});

/** Side by side in equal panels: so many of them. */
export function equalPlaces(count: number, h: number, perRow: number, ...wants: string[]): OpenPlace[] {
  return Array.from({ length: count }, (_, i) => {
    const inRow = i % perRow;
    const x = Math.round((inRow * GRID_COLUMNS) / perRow);
    const w = Math.round(((inRow + 1) * GRID_COLUMNS) / perRow) - x;
    return at(x, Math.floor(i / perRow) * h, w, h, ...wants);
  });
}

/** The layouts that a page can take. Changing one for another keeps the page's panels. */
export const PATTERNS: readonly Pattern[] = [
  {
    key: "cover",
    name: "Cover",
    purpose: "The message, the scorecard and one chart",
    places: [at(0, 0, 24, 12, "text"), at(0, 12, 14, 62, "scorecard"), at(14, 12, 10, 62, "time-chart")],
  },
  {
    key: "one-question",
    name: "One question",
    purpose: "One large chart, its numbers, and what to say of it",
    places: [
      at(0, 0, 17, 56, "bridge", "time-chart", "breakdown"),
      at(17, 0, 7, 30, "tiles"),
      at(17, 30, 7, 26, "text"),
      at(0, 56, 24, 34, "scorecard", "breakdown"),
    ],
  },
  {
    key: "side-by-side",
    name: "Side by side",
    purpose: "Two or three members or periods in equal panels",
    places: equalPlaces(3, 56, 3, "time-chart", "breakdown"),
  },
  {
    key: "by-area",
    name: "By area",
    purpose: "One panel, repeated by the members of a dimension",
    places: equalPlaces(6, 44, 3, "time-chart", "breakdown"),
  },
  {
    key: "month-at-hand",
    name: "Month at hand",
    purpose: "Tiles above; below them how it went, who makes it, and what led there",
    places: [
      at(0, 0, 24, 28, "tiles"),
      at(0, 28, 14, 50, "time-chart"),
      at(14, 28, 10, 50, "breakdown"),
      at(0, 78, 24, 44, "bridge", "scorecard"),
    ],
  },
  {
    key: "appendix",
    name: "Appendix",
    purpose: "The figures, exactly",
    places: [at(0, 0, 24, 74, "cross-tab", "scorecard"), at(0, 74, 24, 40, "breakdown", "scorecard")],
  },
];

/** A page laid out anew. */
export interface Patterned {
  readonly places: Places;
  /** The pattern's places that no panel fills yet. */
  readonly open: readonly OpenPlace[];
}

/** A panel as a pattern needs to know it. */
export interface Placeable {
  readonly key: string;
  readonly kind: string;
  readonly place: Place;
}

/**
 * Puts panels into a pattern's places: first each where its kind belongs, then the others where room is left,
 * in reading order. Panels beyond the places follow below in their own sizes.
 */
export function applyPattern(places: readonly OpenPlace[], panels: readonly Placeable[]): Patterned {
  const order = readingOrder(Object.fromEntries(panels.map((panel) => [panel.key, panel.place])));
  const waiting = order.map((key) => panels.find((panel) => panel.key === key)!);
  const filled = new Map<OpenPlace, Placeable>();
  const fill = (open: OpenPlace, panel: Placeable | undefined) => {
    if (!panel || filled.has(open)) return;
    filled.set(open, panel);
    waiting.splice(waiting.indexOf(panel), 1);
  };
  for (const open of places)
    for (const kind of open.wants)
      fill(
        open,
        waiting.find((panel) => panel.kind === kind),
      );
  for (const open of places) fill(open, waiting[0]);
  const taken: Record<string, Place> = {};
  for (const [open, panel] of filled) taken[panel.key] = open.place;
  const below = rowsOf(Object.fromEntries(places.map((open, i) => [String(i), open.place])));
  const rest = flow(waiting.map(({ key, place }) => ({ key, size: place })));
  for (const [key, place] of Object.entries(rest)) taken[key] = { ...place, y: place.y + below };
  return { places: taken, open: places.filter((open) => !filled.has(open)) };
}

/** Open places and panels closed up together, so that a page being arranged keeps room for what is still to come. */
export function closeUpWithOpen(places: Places, open: readonly OpenPlace[], first: readonly string[] = []): Patterned {
  const all = { ...places, ...Object.fromEntries(open.map((one, i) => [openKey(i), one.place])) };
  const closed = closeUp(all, first);
  return {
    places: Object.fromEntries(Object.keys(places).map((key) => [key, closed[key]!])),
    open: open.map((one, i) => ({ ...one, place: closed[openKey(i)]! })),
  };
}

/** An open place's name among panels' keys, none of which has a colon. */
export function openKey(index: number): string {
  return `open:${index}`;
}
