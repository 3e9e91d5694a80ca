import { useState, type KeyboardEvent } from "react";

/** A cell of a grid, by row and column. */
export interface GridPlace {
  readonly row: number;
  readonly column: number;
}

/** Which cell of a grid is looked at, and how the keyboard moves from cell to cell. */
export interface GridWalk {
  /** `null` while none is looked at. */
  readonly at: GridPlace | null;
  readonly look: (place: GridPlace | null) => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

/**
 * Walks over a grid: arrows by one, Page keys by a page, Home and End along the row, with Ctrl to the corners, Escape
 * away; Enter does what a click does. `onMove` brings the cell into view.
 */
export function useGridWalk(
  size: { readonly rows: number; readonly columns: number; readonly page: number },
  {
    onMove,
    onEnter,
  }: { onMove: (place: GridPlace) => void; onEnter: (place: GridPlace, event: KeyboardEvent) => void },
): GridWalk {
  const [at, look] = useState<GridPlace | null>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    const from = at ?? { row: 0, column: 0 };
    const isWide = event.ctrlKey || event.metaKey;
    const [lastRow, lastColumn] = [size.rows - 1, size.columns - 1];
    const moves: Readonly<Record<string, GridPlace>> = {
      ArrowRight: { ...from, column: Math.min(lastColumn, from.column + (at ? 1 : 0)) },
      ArrowLeft: { ...from, column: Math.max(0, from.column - 1) },
      ArrowDown: { ...from, row: Math.min(lastRow, from.row + (at ? 1 : 0)) },
      ArrowUp: { ...from, row: Math.max(0, from.row - 1) },
      PageDown: { ...from, row: Math.min(lastRow, from.row + size.page) },
      PageUp: { ...from, row: Math.max(0, from.row - size.page) },
      Home: isWide ? { row: 0, column: 0 } : { ...from, column: 0 },
      End: isWide ? { row: lastRow, column: lastColumn } : { ...from, column: lastColumn },
    };
    const to = moves[event.key];
    if (to) {
      look(to);
      onMove(to);
    } else if (event.key === "Enter" && at) onEnter(at, event);
    // With none looked at it is left to the page, which takes back what it was narrowed to.
    else if (event.key === "Escape" && at) look(null);
    else return;
    event.preventDefault();
  };
  return { at, look, onKeyDown };
}
