import { GRID_COLUMNS, inside, readingOrder, type Place, type Places } from "./place.ts";

/**
 * Places without overlap and without gaps above them: in reading order each rises until it meets another.
 * `first` are the keys that keep their row where they meet others; those give way downwards.
 */
export function closeUp(places: Places, first: readonly string[] = []): Places {
  const leading = new Set(first);
  const order = readingOrder(places);
  // Stable: at the same row, those that were just put there come before what they were put on.
  const rank = new Map(order.map((key, i) => [key, i]));
  order.sort((a, b) => {
    const rows = places[a]!.y - places[b]!.y;
    const lead = Number(leading.has(b)) - Number(leading.has(a));
    return rows || lead || rank.get(a)! - rank.get(b)!;
  });
  const floor = new Array<number>(GRID_COLUMNS).fill(0);
  const closed: Record<string, Place> = {};
  for (const key of order) {
    const place = inside(places[key]!);
    const columns = Array.from({ length: place.w }, (_, i) => place.x + i);
    const y = Math.max(...columns.map((column) => floor[column]!));
    for (const column of columns) floor[column] = y + place.h;
    closed[key] = { ...place, y };
  }
  return closed;
}

/** How many rows high a page is. */
export function rowsOf(places: Places): number {
  return Math.max(0, ...Object.values(places).map((place) => place.y + place.h));
}
