import { useLayoutEffect, useMemo, useState, type RefObject } from "react";
import type { ScorecardColumn } from "#core/panels/scorecard/schema.ts";

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
  const gone = stepsOf(columns).slice(0, steps);
  const isLeftOut = ({ key }: C) => key !== "status" && gone.includes(key);
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

/** Which columns give way, step by step. */
export function stepsOf(columns: readonly { readonly key: ScorecardColumn }[]): ScorecardColumn[] {
  return GIVING_WAY.filter((key) => columns.some((column) => column.key === key));
}

/** A status without its word is about so wide, in pixels. */
const STATUS_MARK = 34;

/**
 * After how many steps there is so much room more, in pixels, than after those that were taken. Every measuring lays
 * the page out, so that steps are not tried one by one.
 */
export function stepsForRoom(
  order: readonly ScorecardColumn[],
  widths: Readonly<Partial<Record<ScorecardColumn, number>>>,
  taken: number,
  room: number,
): number {
  let left = room;
  const needed = order.slice(taken).findIndex((key) => {
    left -= Math.max(0, (widths[key] ?? 0) - (key === "status" ? STATUS_MARK : 0));
    return left <= 0;
  });
  return needed < 0 ? order.length : taken + needed + 1;
}

/** How wide each column is. */
function columnWidths(box: HTMLElement): Partial<Record<ScorecardColumn, number>> {
  const heads = [...box.querySelectorAll<HTMLElement>("th[data-column]")];
  return Object.fromEntries(heads.map((head) => [head.dataset["column"]!, head.offsetWidth]));
}

/**
 * The steps of giving way after which a table is no wider than its box: measured before anything is painted, anew
 * whenever the box or what the table shows changes.
 */
export function useStepsToFit(
  box: RefObject<HTMLElement | null>,
  columns: readonly { readonly key: ScorecardColumn }[],
  shown: unknown,
): number {
  const order = useMemo(() => stepsOf(columns), [columns]);
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
    const over = element ? element.scrollWidth - element.clientWidth : 0;
    if (element && state.steps < order.length && over > 0) {
      const steps = stepsForRoom(order, columnWidths(element), state.steps, over);
      // Only what is laid out can be measured: more steps are known to be needed after it, and before it is painted.
      // oxlint-disable-next-line react/set-state-in-effect
      setState((now) => ({ ...now, steps }));
    }
  }, [box, order, state]);
  return Math.min(state.steps, order.length);
}
