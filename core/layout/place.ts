/** A page is this many columns wide, whatever its width in pixels. */
export const GRID_COLUMNS = 24;
/** The height of a row, in pixels. */
export const ROW_HEIGHT = 8;
/** A panel is at most this many rows high, and stands at most this many from the top. */
export const MOST_ROWS = 400;
export const FARTHEST_ROW = 20_000;

/** How much of a page something takes, in columns and rows. */
export interface Size {
  readonly w: number;
  readonly h: number;
}

/** Where something stands on a page: columns from the left, rows from the top. */
export interface Place extends Size {
  readonly x: number;
  readonly y: number;
}

/** Panels' places by their keys. */
export type Places = Readonly<Record<string, Place>>;

/** Whether two places have a cell in common. */
export function overlap(a: Place, b: Place): boolean {
  return a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;
}

/** A place brought inside the page's columns. */
export function inside({ x, y, w, h }: Place): Place {
  const width = clamp(w, 1, GRID_COLUMNS);
  return {
    x: clamp(x, 0, GRID_COLUMNS - width),
    y: clamp(y, 0, FARTHEST_ROW),
    w: width,
    h: clamp(h, 1, MOST_ROWS),
  };
}

/** Keys in the order in which a page is read: from the top, then from the left. */
export function readingOrder(places: Places): string[] {
  return Object.keys(places).sort((a, b) => {
    const [first, second] = [places[a]!, places[b]!];
    return first.y - second.y || first.x - second.x || (a < b ? -1 : 1);
  });
}

function clamp(value: number, least: number, most: number): number {
  return Math.min(most, Math.max(least, Math.round(value)));
}
