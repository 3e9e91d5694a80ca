import { monthsBetween, type Month } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { compareKpi, compareSides, type Comparison, type SidesCompared } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { measureMonth } from "./measure.ts";
import type { MeasureContext } from "./measure-ground.ts";
import type { Measurement } from "./measurement.ts";
import { outlookOf, type Outlook } from "./outlook.ts";
import { SHOWN, PRIOR_YEAR } from "./side.ts";
import { spanWindow } from "./window.ts";

/** What a row can hold besides its comparison; only what is shown is calculated. */
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
  readonly priorYear: SidesCompared | null;
  /** The year to date beside a shorter span. */
  readonly toDate: Comparison | null;
  readonly outlook: Outlook | null;
  readonly trend: readonly { readonly month: Month; readonly measurement: Measurement }[];
}

const YEAR_TO_DATE: Span = { kind: "year-to-date" };

/** One row of a scorecard. */
export function scorecardRow(kpi: CompiledKpi, frame: Frame, context: MeasureContext, parts: RowParts): ScorecardRow {
  const window = spanWindow(context, frame.span, frame.asOf);
  return {
    kpi,
    comparison: compareKpi(kpi, frame, context),
    priorYear: parts.priorYear ? compareSides(kpi, SHOWN, PRIOR_YEAR, window, context) : null,
    toDate: parts.toDate ? compareKpi(kpi, { ...frame, span: YEAR_TO_DATE }, context) : null,
    outlook: parts.outlook ? outlookOf(kpi, frame, context) : null,
    trend: trendMonths(frame.asOf, parts.trendMonths).map((month) => ({
      month,
      measurement: measureMonth(kpi, SHOWN, month, context),
    })),
  };
}

function trendMonths(asOf: Month, count: number): Month[] {
  return count === 0 ? [] : monthsBetween(asOf - count + 1, asOf);
}
