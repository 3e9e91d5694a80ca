import { formatMonth, type Month } from "../calendar/month.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { judgeRange } from "./judge-range.ts";
import { daysOf, saidOf, type KnownEvent } from "./known-events.ts";
import { USUAL_RANGE_LEVEL } from "./settings.ts";

/** A month whose figure lies outside of what was expected of it. */
export interface MonthOutside {
  readonly month: string;
  readonly name: string;
  readonly value: number;
  readonly expected: number;
  readonly lower: number;
  readonly upper: number;
  readonly score: number;
  /** The percentage of the range. */
  readonly level: number;
  /** What an analyst said that it was; `null` where nobody did. */
  readonly reason: string | null;
}

/** The month of a KPI, where it is outside its expected range and nobody said that it is as things are; else `null`. */
export function monthOutside(kpi: CompiledKpi, month: Month, context: MeasureContext): MonthOutside | null {
  const level = USUAL_RANGE_LEVEL;
  const found = judgeRange(kpi, { grain: "month", last: 1, level }, context);
  if ("notFitted" in found) return null;
  const point = found.points.at(-1);
  const period = point && found.placed.periods[point.period];
  if (!point?.isOutside || period?.to !== month || point.value === null || point.score === null) return null;
  const said = eventAt(kpi, daysOf(period), context);
  if (said?.verdict === "dismissed") return null;
  const { value, expected, lower, upper, score } = point;
  return {
    month: formatMonth(month),
    name: period.name,
    value,
    expected,
    lower,
    upper,
    score,
    level,
    reason: said?.reason ?? null,
  };
}

function eventAt(
  kpi: CompiledKpi,
  days: { readonly from: number; readonly to: number },
  { scope, dimensions, knownEvents = [] }: MeasureContext,
): KnownEvent | undefined {
  return saidOf({ kpi: kpi.definition.key, ...days, scope, at: null, isOfWhole: true }, knownEvents, dimensions);
}
