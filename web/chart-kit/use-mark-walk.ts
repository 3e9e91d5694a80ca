import { useState, type KeyboardEvent } from "react";

/** Which mark of a chart is looked at, and how the keyboard moves along them. */
export interface MarkWalk {
  /** `null` while none is looked at. */
  readonly active: number | null;
  readonly look: (mark: number) => void;
  readonly leave: () => void;
  /** For the chart's own element, so that it is reached and walked with the keyboard. */
  readonly keys: {
    readonly onKeyDown: (event: KeyboardEvent) => void;
    readonly onFocus: () => void;
    readonly onBlur: () => void;
  };
}

/** What keys do besides walking. */
export interface MarkKeys {
  readonly onTable: () => void;
  /** What a click on the mark does. */
  readonly onEnter?: (mark: number, event: KeyboardEvent) => void;
  /** Opens the mark downwards. */
  readonly onDown?: ((mark: number) => void) | undefined;
  /** Of marks that stand in rows: how many stand in each; up and down walk from row to row. */
  readonly perRow?: number;
}

/**
 * Walks along the marks of a chart: arrows by one, Home and End to the ends, Escape away, `t` to the table of numbers; Enter and ↓
 * do what a click and a double click do.
 * The first step begins at `start`.
 */
export function useMarkWalk(count: number, start: number, { onTable, onEnter, onDown, perRow }: MarkKeys): MarkWalk {
  const [active, setActive] = useState<number | null>(null);
  const last = count - 1;
  const within = (mark: number) => (mark < 0 || mark > last ? (active ?? start) : mark);
  const onKeyDown = (event: KeyboardEvent) => {
    const moves: Readonly<Record<string, number | null>> = {
      ArrowRight: Math.min(last, (active ?? start) + 1),
      ArrowLeft: Math.max(0, (active ?? start) - 1),
      Home: 0,
      End: last,
      ...(perRow === undefined
        ? {}
        : {
            ArrowDown: within((active ?? start) + perRow),
            ArrowUp: within((active ?? start) - perRow),
          }),
      // With none looked at it is left to the page, which takes back what it was narrowed to.
      ...(active === null ? {} : { Escape: null }),
    };
    if (event.key === "t") onTable();
    else if (event.key === "Enter" && active !== null && onEnter) onEnter(active, event);
    else if (event.key === "ArrowDown" && active !== null && onDown) onDown(active);
    else if (event.key in moves) setActive(moves[event.key]!);
    else return;
    event.preventDefault();
  };
  return {
    active,
    look: setActive,
    leave: () => setActive(null),
    keys: { onKeyDown, onFocus: () => setActive((mark) => mark ?? start), onBlur: () => setActive(null) },
  };
}
