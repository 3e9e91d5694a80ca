import { monthsName } from "../calendar/fiscal-calendar.ts";
import { absent, type Absence } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { coveredMonths, coverSide, measure, type MeasureContext, type Measurement } from "./measure.ts";
import type { Side } from "./side.ts";
import type { Window } from "./window.ts";

/** A measurement over a window that must be covered whole. */
export function measureWhole(
  kpi: CompiledKpi,
  side: Side,
  window: Window,
  context: MeasureContext,
): Measurement | Absence {
  const coverage = coverSide(kpi, side, window, context);
  if (coverage.absence) return coverage.absence;
  const open = coverage.asked.filter((month) => !coverage.months.includes(month));
  if (open.length > 0)
    return absent(
      "not covered",
      `${side.name} has nothing for ${monthsName(context.calendar, open)}: the year is not whole.`,
    );
  return measure(kpi, coverage, coveredMonths(coverage), context);
}

/** Whether there is a measurement and not an absence. */
export function isMeasured(found: Measurement | Absence): found is Measurement {
  return "inputs" in found;
}
