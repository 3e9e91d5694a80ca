import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { spanMonths } from "../calendar/span.ts";
import type { CoverageMap } from "../cube/coverage.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { compareKpi, compareSides, type Comparison } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { coverSide, measureMonth, type MeasureContext, type Measurement } from "./measure.ts";
import type { SideMonths } from "./plan-cells.ts";
import { ACTUAL, basisSide, PRIOR_YEAR } from "./side.ts";

/** Months of a scorecard row's trend: a year and the same month before it. */
export const TREND_MONTHS = 13;

/** One KPI's row: against the basis, against the prior year, and its last months. */
export interface ScorecardRow {
  readonly kpi: CompiledKpi;
  readonly comparison: Comparison;
  readonly priorYear: Omit<Comparison, "isFallback">;
  readonly trend: readonly { readonly month: Month; readonly measurement: Measurement }[];
}

/** The sides and months a scorecard over this frame looks up. */
export function scorecardSides({
  kpis,
  frame,
  coverage,
  calendar,
}: {
  kpis: readonly CompiledKpi[];
  frame: Frame;
  coverage: CoverageMap;
  calendar: FiscalCalendar;
}): SideMonths[] {
  const asked = spanMonths(calendar, frame.span, frame.asOf);
  const basis = basisSide({ ...frame, coverage, calendar });
  const fallbacks = kpis.flatMap((kpi) => kpi.definition.fallbackBasis ?? []);
  return [
    { side: ACTUAL, months: [...asked, ...trendMonths(frame.asOf)] },
    { side: PRIOR_YEAR, months: asked },
    ...("absent" in basis ? [] : [{ side: basis, months: asked }]),
    ...[...new Set(fallbacks)].map((scenario) => ({ side: { scenario, shift: 0, name: scenario }, months: asked })),
  ];
}

/** One row of a scorecard. */
export function scorecardRow(kpi: CompiledKpi, frame: Frame, context: MeasureContext): ScorecardRow {
  const asked = spanMonths(context.calendar, frame.span, frame.asOf);
  const months = trendMonths(frame.asOf);
  const trendCoverage = coverSide(kpi, ACTUAL, months, context);
  return {
    kpi,
    comparison: compareKpi(kpi, frame, context),
    priorYear: compareSides(kpi, ACTUAL, PRIOR_YEAR, asked, context),
    trend: months.map((month) => ({ month, measurement: measureMonth(kpi, trendCoverage, month, context) })),
  };
}

function trendMonths(asOf: Month): Month[] {
  return monthsBetween(asOf - TREND_MONTHS + 1, asOf);
}
