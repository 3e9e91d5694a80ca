import { fiscalYearOf, fiscalYearStart, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { spanMonths } from "../calendar/span.ts";
import { hasInputs, type Comparison } from "../compare/compare-kpi.ts";
import type { Frame } from "../compare/frame.ts";
import { measureMonth, type MeasureContext, type MeasureFrame } from "../compare/measure.ts";
import type { Ask } from "../compare/plan-reads.ts";
import { ACTUAL, basisSide, latestForecast, PRIOR_YEAR, type Side } from "../compare/side.ts";
import { varianceOf, type Variance } from "../compare/variance.ts";
import { monthWindow } from "../compare/window.ts";
import { absent, isPresent, type Absence, type Figure } from "../figures/figure.ts";
import { evaluateDifference } from "../formula/evaluate.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";

/** A KPI in one month on every side, with the month's variance. */
export interface SeriesPoint {
  readonly month: Month;
  readonly actual: Figure;
  /** After the last shown actual: what the latest forecast expects. */
  readonly forecast: Figure;
  readonly budget: Figure;
  readonly target: Figure;
  readonly priorYear: Figure;
  readonly basis: Figure;
  /** Actual against basis; forecast against basis where the actual is not there yet. */
  readonly variance: Variance;
  readonly varianceOf: "actual" | "forecast";
  /** Whether the month belongs to the frame's span. */
  readonly inSpan: boolean;
}

/** A KPI over time, month by month. */
export interface TimeSeries {
  readonly points: readonly SeriesPoint[];
  /** The last month with an actual that is shown; `null` when there is none. */
  readonly closedTo: Month | null;
  readonly forecastName: string | null;
  readonly basisName: string;
  /** The comparison over the whole span: what the headline speaks of. */
  readonly comparison: Comparison;
}

/** The months a chart of this frame shows: the fiscal year, and the span where it begins earlier. */
export function seriesMonths(calendar: FiscalCalendar, frame: Frame): Month[] {
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, frame.asOf));
  const asked = spanMonths(calendar, frame.span, frame.asOf);
  return monthsBetween(Math.min(start, asked[0]!), start + 11);
}

/** What a time series of a KPI over this frame looks up. */
export function seriesAsks(kpi: CompiledKpi, frame: Frame, own: MeasureFrame): Ask[] {
  const windows = seriesMonths(own.calendar, frame).map(monthWindow);
  const { actual, forecast, budget, target, priorYear } = drawnSides(kpi, frame, own);
  const basis = basisSide({ ...frame, coverage: own.coverage, calendar: own.calendar });
  const fallback = kpi.definition.fallbackBasis;
  const sides = [
    ...[actual, forecast, budget, target, priorYear].filter((side) => side !== undefined),
    ...("absent" in basis ? [] : [basis]),
    ...(fallback === null ? [] : [{ scenario: fallback, shift: 0, name: fallback }]),
  ];
  return sides.map((side) => ({ kpis: [kpi], side, windows }));
}

/** Lays a KPI out over time on all sides; `comparison` is the span's own, from the same path. */
export function timeSeries(
  kpi: CompiledKpi,
  frame: Frame,
  comparison: Comparison,
  context: MeasureContext,
): TimeSeries {
  const { coverage, calendar } = context;
  const months = seriesMonths(calendar, frame);
  const sides = drawnSides(kpi, frame, context);
  const basis = comparison.isFallback ? comparison.basis.coverage.side : basisSide({ ...frame, coverage, calendar });
  const asked = new Set(spanMonths(calendar, frame.span, frame.asOf));
  const lastShown = Math.max(frame.asOf, ...asked);
  const at = (side: Side | undefined, month: Month, missing: string) =>
    side ? measureMonth(kpi, side, month, context) : { figure: absent("not covered", missing), inputs: [] };
  const actuals = new Map(
    months.map((month) => [
      month,
      month > lastShown
        ? { figure: absent("not closed yet", "After the as-of period."), inputs: [] }
        : at(sides.actual, month, ""),
    ]),
  );
  const closedTo = months.filter((month) => isPresent(actuals.get(month)!.figure)).at(-1) ?? null;

  const points = months.map((month): SeriesPoint => {
    const isOpen = closedTo === null || month > closedTo;
    const actual = actuals.get(month)!;
    const forecast = at(
      isOpen ? sides.forecast : undefined,
      month,
      isOpen ? "No forecast had been made." : "The month is closed.",
    );
    const measured = isOpen ? forecast : actual;
    const base = at("absent" in basis ? undefined : basis, month, "absent" in basis ? basis.detail : "");
    const delta: Figure =
      isPresent(measured.figure) && isPresent(base.figure)
        ? evaluateDifference(kpi.formula, measured.inputs, base.inputs)
        : absentDelta(measured.figure, base.figure);
    return {
      month,
      actual: actual.figure,
      forecast: forecast.figure,
      budget: at(sides.budget, month, "There is no budget for this KPI.").figure,
      target: at(sides.target, month, "There is no target for this KPI.").figure,
      priorYear: at(sides.priorYear, month, "").figure,
      basis: base.figure,
      variance: varianceOf(delta, base.figure, kpi.definition),
      varianceOf: isOpen ? "forecast" : "actual",
      inSpan: asked.has(month),
    };
  });
  return {
    points,
    closedTo,
    forecastName: sides.forecast?.name ?? null,
    basisName: "absent" in basis ? "Basis" : basis.name,
    comparison,
  };
}

/** The sides a chart over time draws; those that the KPI does not have are left out. */
function drawnSides(kpi: CompiledKpi, frame: Frame, own: MeasureFrame) {
  const known = (scenario: string): Side | undefined => {
    const found = own.coverage.scenarios.get(scenario);
    return found && hasInputs(kpi, scenario, own) ? { scenario, shift: 0, name: found.name } : undefined;
  };
  const latest = latestForecast(own.coverage, frame.asOf);
  return {
    actual: ACTUAL,
    forecast: latest && { scenario: latest.key, shift: 0, name: latest.name },
    budget: known("budget"),
    target: known("target"),
    priorYear: PRIOR_YEAR,
  };
}

function absentDelta(measured: Figure, base: Figure): Absence {
  if (!isPresent(measured)) return measured;
  return absent("no base", isPresent(base) ? "There is nothing to compare." : base.detail);
}
