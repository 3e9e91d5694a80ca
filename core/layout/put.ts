import { closeUp, rowsOf } from "./close-up.ts";
import { GRID_COLUMNS, overlap, type Place, type Places, type Size } from "./place.ts";

/** A panel beside others gives up at most this part of its width, and is no narrower than this. */
const MOST_GIVEN = 0.35;
const LEAST_WIDTH = 7;
/** It takes the height of the one beside it where that differs by no more than this part. */
const ALIKE = 0.3;

/**
 * The first place that is free for a panel of a size, reading from the top: beside others where they leave it most of
 * its width, else below; one that keeps its size gives up none. Beside another it ends where that one ends, if its height is much the same.
 */
export function freePlace(places: Places, { w, h }: Size, { keepsSize = false } = {}): Place {
  const taken = Object.values(places);
  const width = Math.min(w, GRID_COLUMNS);
  const least = keepsSize ? width : Math.min(width, Math.max(LEAST_WIDTH, Math.ceil(width * (1 - MOST_GIVEN))));
  const rows = [...new Set([0, ...taken.map((place) => place.y), ...taken.map((place) => place.y + place.h)])];
  const isFree = (place: Place) => !taken.some((other) => overlap(place, other));
  for (const y of rows.sort((a, b) => a - b))
    for (let x = 0; x + least <= GRID_COLUMNS; x += 1) {
      let place = { x, y, w: least, h };
      // What rises above a gap would move under another: a place must stand on something, or on the top.
      if (!isFree(place)) continue;
      while (place.w < width && x + place.w < GRID_COLUMNS && isFree({ ...place, w: place.w + 1 }))
        place = { ...place, w: place.w + 1 };
      if (isGrounded(place, taken)) return keepsSize ? place : alignedTo(place, taken, isFree);
    }
  return { x: 0, y: rowsOf(places), w: width, h };
}

/** A place that ends where the one beside it ends, where both begin in one row and are much alike. */
function alignedTo(place: Place, taken: readonly Place[], isFree: (place: Place) => boolean): Place {
  const beside = taken.find(({ x, y, w }) => y === place.y && (x + w === place.x || x === place.x + place.w));
  if (!beside || Math.abs(beside.h - place.h) > ALIKE * place.h) return place;
  const aligned = { ...place, h: beside.h };
  return isFree(aligned) ? aligned : place;
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
