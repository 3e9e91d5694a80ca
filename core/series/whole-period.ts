import { monthsName } from "../calendar/fiscal-calendar.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { measureOver } from "../compare/measure.ts";
import type { Measurement } from "../compare/measurement.ts";
import { SHOWN } from "../compare/side.ts";
import { absent, isPresent } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Period } from "./periods.ts";
import type { Figure } from "../figures/schema.ts";

/**
 * What is shown of a KPI in a period, where all of the period is there. One that the as-of date or the data's beginning
 * cuts short is no period of an average, a trend or a correlation: it is absent, and says what is there of it.
 */
export function wholeFigure(kpi: CompiledKpi, period: Period, context: MeasureContext): Figure {
  const found = measureOver(kpi, SHOWN, period.window, context);
  return isCut(found) ? absent("not covered", cutWords(found, context)) : found.figure;
}

/** Whether a measurement has fewer months than it was asked for. */
export function isCut({ figure, months, coverage }: Measurement): boolean {
  return isPresent(figure) && months.length < coverage.asked.length;
}

function cutWords({ months }: Measurement, { calendar }: MeasureContext): string {
  return `Only ${monthsName(calendar, months)} ${months.length === 1 ? "has" : "have"} figures.`;
}
