import { monthsBetween, type Month } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { compareKpi, compareSides, type Comparison } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { measureMonth, type MeasureContext, type MeasureFrame, type Measurement } from "./measure.ts";
import { outlookAsks, outlookOf, type Outlook } from "./outlook.ts";
import type { Ask } from "./plan-reads.ts";
import { ACTUAL, basisSide, PRIOR_YEAR } from "./side.ts";
import { monthWindow, spanWindow } from "./window.ts";

/** What a row can hold besides its comparison; only what is shown is reckoned. */
export interface RowParts {
  readonly priorYear: boolean;
  readonly toDate: boolean;
  readonly outlook: boolean;
  /** How many months of trend; 0 for none. */
  readonly trendMonths: number;
}

/** One KPI's row: against the basis, and what else is shown of it. */
export interface ScorecardRow {
  readonly kpi: CompiledKpi;
  readonly comparison: Comparison;
  readonly priorYear: Omit<Comparison, "isFallback"> | null;
  /** The year to date beside a shorter span. */
  readonly toDate: Comparison | null;
  readonly outlook: Outlook | null;
  readonly trend: readonly { readonly month: Month; readonly measurement: Measurement }[];
}

const YEAR_TO_DATE: Span = { kind: "year-to-date" };

/** What a scorecard of these KPIs over this frame looks up. */
export function scorecardAsks(kpis: readonly CompiledKpi[], frame: Frame, own: MeasureFrame, parts: RowParts): Ask[] {
  const window = spanWindow(own.coverage, frame.span, frame.asOf);
  const trend = trendMonths(frame.asOf, parts.trendMonths).map(monthWindow);
  return [
    ...comparisonAsks(kpis, frame, own),
    ...(trend.length > 0 ? [{ kpis, side: ACTUAL, windows: trend }] : []),
    ...(parts.priorYear ? [{ kpis, side: PRIOR_YEAR, windows: [window] }] : []),
    ...(parts.toDate ? comparisonAsks(kpis, { ...frame, span: YEAR_TO_DATE }, own) : []),
    ...(parts.outlook ? outlookAsks(kpis, frame, own) : []),
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
export function scorecardRow(kpi: CompiledKpi, frame: Frame, context: MeasureContext, parts: RowParts): ScorecardRow {
  const window = spanWindow(context.coverage, frame.span, frame.asOf);
  return {
    kpi,
    comparison: compareKpi(kpi, frame, context),
    priorYear: parts.priorYear ? compareSides(kpi, ACTUAL, PRIOR_YEAR, window, context) : null,
    toDate: parts.toDate ? compareKpi(kpi, { ...frame, span: YEAR_TO_DATE }, context) : null,
    outlook: parts.outlook ? outlookOf(kpi, frame, context) : null,
    trend: trendMonths(frame.asOf, parts.trendMonths).map((month) => ({
      month,
      measurement: measureMonth(kpi, ACTUAL, month, context),
    })),
  };
}

function trendMonths(asOf: Month, count: number): Month[] {
  return count === 0 ? [] : monthsBetween(asOf - count + 1, asOf);
}
