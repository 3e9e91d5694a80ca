import { fiscalYearOf, fiscalYearStart, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { spanMonths } from "../calendar/span.ts";
import { hasInputs, type Comparison } from "../compare/compare-kpi.ts";
import type { Frame } from "../compare/frame.ts";
import { coverSide, measureMonth, type MeasureContext, type SideCoverage } from "../compare/measure.ts";
import type { SideMonths } from "../compare/plan-cells.ts";
import { ACTUAL, basisSide, latestForecast, PRIOR_YEAR, type Side } from "../compare/side.ts";
import { varianceOf, type Variance } from "../compare/variance.ts";
import type { CoverageMap } from "../cube/coverage.ts";
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

/** The sides and months a time series over this frame looks up. */
export function seriesSides(
  frame: Frame,
  coverage: CoverageMap,
  calendar: FiscalCalendar,
  fallbackBasis: string | null,
): SideMonths[] {
  const months = seriesMonths(calendar, frame);
  return [...drawnSides(frame, coverage, calendar), ...basisSides(frame, coverage, calendar, fallbackBasis)].map(
    (side) => ({ side, months }),
  );
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
  const cover = (side: Side | undefined): SideCoverage | undefined => side && coverSide(kpi, side, months, context);
  const forecastSide = latestForecast(coverage, frame.asOf);
  const basis = comparison.isFallback ? comparison.basis.coverage.side : basisSide({ ...frame, coverage, calendar });
  const sides = {
    actual: cover(ACTUAL)!,
    forecast: cover(forecastSide && { scenario: forecastSide.key, shift: 0, name: forecastSide.name }),
    budget: cover(knownSide(kpi, "budget", context)),
    target: cover(knownSide(kpi, "target", context)),
    priorYear: cover(PRIOR_YEAR)!,
    basis: "absent" in basis ? undefined : cover(basis),
  };
  const lastShown = Math.max(frame.asOf, spanMonths(calendar, frame.span, frame.asOf).at(-1)!);
  const closedTo = sides.actual.months.filter((month) => month <= lastShown).at(-1) ?? null;
  const asked = new Set(comparison.asked);
  const at = (covered: SideCoverage | undefined, month: Month, missing: string) =>
    covered ? measureMonth(kpi, covered, month, context) : { figure: absent("not covered", missing), inputs: [] };

  const points = months.map((month): SeriesPoint => {
    const isOpen = closedTo === null || month > closedTo;
    const actual =
      month > lastShown
        ? { figure: absent("not closed yet", "After the as-of period."), inputs: [] }
        : at(sides.actual, month, "");
    const forecast = at(
      isOpen ? sides.forecast : undefined,
      month,
      isOpen ? "No forecast had been made." : "The month is closed.",
    );
    const measured = isOpen ? forecast : actual;
    const base = at(sides.basis, month, "absent" in basis ? basis.detail : "");
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
    forecastName: forecastSide?.name ?? null,
    basisName: "absent" in basis ? "Basis" : basis.name,
    comparison,
  };
}

function knownSide(kpi: CompiledKpi, scenario: string, context: MeasureContext): Side | undefined {
  const known = context.coverage.scenarios.get(scenario);
  return known && hasInputs(kpi, scenario, context) ? { scenario, shift: 0, name: known.name } : undefined;
}

function drawnSides(frame: Frame, coverage: CoverageMap, calendar: FiscalCalendar): Side[] {
  const forecast = basisSide({
    basis: { kind: "latest-forecast" },
    span: frame.span,
    asOf: frame.asOf,
    coverage,
    calendar,
  });
  const fixed = ["budget", "target"].map((scenario) => ({ scenario, shift: 0, name: scenario }));
  return [ACTUAL, PRIOR_YEAR, ...fixed, ...("absent" in forecast ? [] : [forecast])];
}

function basisSides(
  frame: Frame,
  coverage: CoverageMap,
  calendar: FiscalCalendar,
  fallbackBasis: string | null,
): Side[] {
  const basis = basisSide({ ...frame, coverage, calendar });
  return [
    ...("absent" in basis ? [] : [basis]),
    ...(fallbackBasis === null ? [] : [{ scenario: fallbackBasis, shift: 0, name: fallbackBasis }]),
  ];
}

function absentDelta(measured: Figure, base: Figure): Absence {
  if (!isPresent(measured)) return measured;
  return absent("no base", isPresent(base) ? "There is nothing to compare." : base.detail);
}
