import { useLayoutEffect, useState, type RefObject } from "react";
import type { ScorecardColumn } from "#core/panels/scorecard/definition.ts";

/** What a scorecard can do without where its panel is narrow, in the order in which it goes. */
const GIVING_WAY = ["trend", "prior-year", "status", "delta-percent"] as const satisfies readonly ScorecardColumn[];

/** What is left of a scorecard's columns. */
export interface FittingColumns<C> {
  readonly columns: readonly C[];
  /** Those left out, in the order in which they went. */
  readonly leftOut: readonly C[];
  /** Whether a status is its mark alone. */
  readonly isStatusShort: boolean;
}

/** The columns after so many steps of giving way; only columns that are there take a step. A status loses its word, not its place. */
export function columnsAfter<C extends { readonly key: ScorecardColumn }>(
  columns: readonly C[],
  steps: number,
): FittingColumns<C> {
  const gone = GIVING_WAY.filter((key) => columns.some((column) => column.key === key)).slice(0, steps);
  const isLeftOut = ({ key }: C) => key !== "status" && (gone as readonly ScorecardColumn[]).includes(key);
  return {
    columns: columns.filter((column) => !isLeftOut(column)),
    leftOut: gone.flatMap((key) => columns.filter((column) => column.key === key && isLeftOut(column))),
    isStatusShort: gone.includes("status"),
  };
}

/** A panel narrower than this shows of each row what it is read for, and the rest on a tap. */
export const COMPACT_BELOW = 480;

/** What a compact row shows: the actual, Δ with its comb, and the status. */
export const COMPACT_COLUMNS: readonly ScorecardColumn[] = ["actual", "delta", "status"];

/** How many steps there are. */
export function stepsOf(columns: readonly { readonly key: ScorecardColumn }[]): number {
  return GIVING_WAY.filter((key) => columns.some((column) => column.key === key)).length;
}

/**
 * The steps of giving way after which a table is no wider than its box: measured before anything is painted, anew
 * whenever the box or what the table shows changes.
 */
export function useStepsToFit(box: RefObject<HTMLElement | null>, most: number, shown: unknown): number {
  const [state, setState] = useState({ steps: 0, width: 0, shown });
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => {
      const width = element.clientWidth;
      setState((now) => (now.width === width ? now : { ...now, steps: 0, width }));
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [box]);
  // What is shown anew is measured anew, from the start.
  if (state.shown !== shown) setState({ ...state, steps: 0, shown });
  useLayoutEffect(() => {
    const element = box.current;
    if (element && state.steps < most && element.scrollWidth > element.clientWidth)
      // Only what is laid out can be measured: a step more is known to be needed after it, and before it is painted.
      // eslint-disable-next-line react-hooks/set-state-in-effect
      setState((now) => ({ ...now, steps: now.steps + 1 }));
  }, [box, most, state]);
  return Math.min(state.steps, most);
}
