import { monthsBetween, type Month } from "../calendar/month.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { compareKpi, compareSides, type Comparison } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { measureMonth, type MeasureContext, type MeasureFrame, type Measurement } from "./measure.ts";
import type { Ask } from "./plan-reads.ts";
import { ACTUAL, basisSide, PRIOR_YEAR } from "./side.ts";
import { monthWindow, spanWindow } from "./window.ts";

/** Months of a scorecard row's trend: a year and the same month before it. */
export const TREND_MONTHS = 13;

/** One KPI's row: against the basis, against the prior year, and its last months. */
export interface ScorecardRow {
  readonly kpi: CompiledKpi;
  readonly comparison: Comparison;
  readonly priorYear: Omit<Comparison, "isFallback">;
  readonly trend: readonly { readonly month: Month; readonly measurement: Measurement }[];
}

/** What a scorecard of these KPIs over this frame looks up. */
export function scorecardAsks(kpis: readonly CompiledKpi[], frame: Frame, own: MeasureFrame): Ask[] {
  const window = spanWindow(own.coverage, frame.span, frame.asOf);
  const trend = trendMonths(frame.asOf).map(monthWindow);
  return [
    ...comparisonAsks(kpis, frame, own),
    { kpis, side: ACTUAL, windows: trend },
    { kpis, side: PRIOR_YEAR, windows: [window] },
  ];
}

/** What comparing these KPIs over this frame looks up. */
export function comparisonAsks(
  kpis: readonly CompiledKpi[],
  frame: Frame,
  { coverage, calendar }: Pick<MeasureFrame, "coverage" | "calendar">,
): Ask[] {
  const windows = [spanWindow(coverage, frame.span, frame.asOf)];
  const basis = basisSide({ ...frame, coverage, calendar });
  const fallbacks = new Set(kpis.flatMap((kpi) => kpi.definition.fallbackBasis ?? []));
  return [
    { kpis, side: ACTUAL, windows },
    ...("absent" in basis ? [] : [{ kpis, side: basis, windows }]),
    ...[...fallbacks].map((scenario) => ({ kpis, side: { scenario, shift: 0, name: scenario }, windows })),
  ];
}

/** One row of a scorecard. */
export function scorecardRow(kpi: CompiledKpi, frame: Frame, context: MeasureContext): ScorecardRow {
  const window = spanWindow(context.coverage, frame.span, frame.asOf);
  return {
    kpi,
    comparison: compareKpi(kpi, frame, context),
    priorYear: compareSides(kpi, ACTUAL, PRIOR_YEAR, window, context),
    trend: trendMonths(frame.asOf).map((month) => ({ month, measurement: measureMonth(kpi, ACTUAL, month, context) })),
  };
}

function trendMonths(asOf: Month): Month[] {
  return monthsBetween(asOf - TREND_MONTHS + 1, asOf);
}
