import { closeUp } from "./close-up.ts";
import { GRID_COLUMNS, readingOrder, type Place, type Places } from "./place.ts";

/** How several chosen panels are brought into line. */
export const ALIGNMENTS = ["equal-width", "equal-height", "row", "column"] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/**
 * Brings the chosen panels into line; the others give way. Equal width and height take the first one's;
 * a row shares the page's columns among them, a column stands in the first one's.
 */
export function align(places: Places, chosen: readonly string[], alignment: Alignment): Places {
  const keys = readingOrder(places).filter((key) => chosen.includes(key));
  const [lead] = keys;
  if (lead === undefined || keys.length < 2) return places;
  return closeUp({ ...places, ...ALIGN[alignment](keys, places, places[lead]!) }, keys);
}

type Align = (keys: readonly string[], places: Places, lead: Place) => Places;

const ALIGN: Readonly<Record<Alignment, Align>> = {
  "equal-width": (keys, places, lead) => eachOf(keys, (key) => ({ ...places[key]!, w: lead.w })),
  "equal-height": (keys, places, lead) => eachOf(keys, (key) => ({ ...places[key]!, h: lead.h })),
  row: (keys, places, lead) => {
    const edges = keys.map((_, i) => Math.round((i * GRID_COLUMNS) / keys.length));
    return eachOf(keys, (_, i) => ({
      x: edges[i]!,
      y: lead.y,
      w: Math.max(1, (edges[i + 1] ?? GRID_COLUMNS) - edges[i]!),
      h: Math.max(...keys.map((other) => places[other]!.h)),
    }));
  },
  column: (keys, places, lead) => {
    let { y } = lead;
    return eachOf(keys, (key) => {
      const place = { x: lead.x, y, w: lead.w, h: places[key]!.h };
      y += place.h;
      return place;
    });
  },
};

function eachOf(keys: readonly string[], placeOf: (key: string, i: number) => Place): Places {
  return Object.fromEntries(keys.map((key, i) => [key, placeOf(key, i)]));
}
