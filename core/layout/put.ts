import { closeUp, rowsOf } from "./close-up.ts";
import { GRID_COLUMNS, overlap, type Place, type Places, type Size } from "./place.ts";

/** The first place of a size that is free, reading from the top; below all others where nothing is. */
export function freePlace(places: Places, { w, h }: Size): Place {
  const taken = Object.values(places);
  const width = Math.min(w, GRID_COLUMNS);
  const rows = [...new Set([0, ...taken.map((place) => place.y), ...taken.map((place) => place.y + place.h)])];
  for (const y of rows.sort((a, b) => a - b)) {
    for (let x = 0; x + width <= GRID_COLUMNS; x += 1) {
      const place = { x, y, w: width, h };
      // What rises above a gap would move under another: a place must stand on something, or on the top.
      if (!taken.some((other) => overlap(place, other)) && isGrounded(place, taken)) return place;
    }
  }
  return { x: 0, y: rowsOf(places), w: width, h };
}

/** Places for panels in an order, left to right and row by row, each in its own size. */
export function flow(sizes: readonly { readonly key: string; readonly size: Size }[]): Places {
  let places: Record<string, Place> = {};
  let x = 0;
  let y = 0;
  let rowHeight = 0;
  for (const { key, size } of sizes) {
    const w = Math.min(size.w, GRID_COLUMNS);
    if (x + w > GRID_COLUMNS) {
      y += rowHeight;
      x = 0;
      rowHeight = 0;
    }
    places = { ...places, [key]: { x, y, w, h: size.h } };
    x += w;
    rowHeight = Math.max(rowHeight, size.h);
  }
  return closeUp(places);
}

function isGrounded(place: Place, taken: readonly Place[]): boolean {
  if (place.y === 0) return true;
  return taken.some(
    (other) => other.y + other.h === place.y && other.x < place.x + place.w && place.x < other.x + other.w,
  );
}
