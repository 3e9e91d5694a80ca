import type { MeasureContext } from "../compare/measure-ground.ts";
import { measureOver } from "../compare/measure.ts";
import { SHOWN } from "../compare/side.ts";
import { dayWindow, rangeWindow, type Window } from "../compare/window.ts";
import { monthsBetween } from "../calendar/month.ts";
import { absent, isPresent, present } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Period } from "./periods.ts";
import type { Figure } from "../figures/schema.ts";

/**
 * The moving average of a KPI's actual, period by period, over `size` periods in a row: those that end with each, or
 * those around it (of an even number the mean of the two runs that lie around it, as is usual for seasons of twelve
 * months). Of a rate it is the rate over the run together, from aggregated inputs. A run that is not whole has none.
 * `periods` begin as far before the shown ones as runs reach back, and have none between that is missing.
 */
export function movingAverage(
  kpi: CompiledKpi,
  periods: readonly Period[],
  { size, isCentred }: { readonly size: number; readonly isCentred: boolean },
  actualOf: (period: Period) => Figure,
  context: MeasureContext,
): Figure[] {
  const actuals = periods.map(actualOf);
  const isRate = kpi.formula.behaviour === "rate";
  /** Over the run that ends at a place. */
  const upTo = (end: number): Figure => {
    const start = end - size + 1;
    if (start < 0 || end >= periods.length) return NOT_WHOLE;
    const run = actuals.slice(start, end + 1);
    if (!run.every(isPresent)) return NOT_WHOLE;
    if (isRate) return measureOver(kpi, SHOWN, windowOver(periods[start]!, periods[end]!), context).figure;
    return present(run.reduce((sum, { value }) => sum + value, 0) / size);
  };
  const half = Math.floor(size / 2);
  return periods.map((_, i) => {
    if (!isCentred) return upTo(i);
    if (size % 2 === 1) return upTo(i + half);
    const [before, after] = [upTo(i + half - 1), upTo(i + half)];
    return isPresent(before) && isPresent(after) ? present((before.value + after.value) / 2) : NOT_WHOLE;
  });
}

const NOT_WHOLE = absent("not covered", "Not all of its periods have figures.");

/** The window from the first to the last of periods that follow each other. */
function windowOver(first: Period, last: Period): Window {
  const [from, to] = [first.window.days, last.window.days];
  return from && to
    ? dayWindow({ month: first.from, day: from.from }, { month: last.to, day: to.to })
    : rangeWindow(monthsBetween(first.from, last.to));
}
