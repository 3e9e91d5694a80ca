import type { PanelBase } from "../panel-base.ts";

/** What a scorecard can show of each KPI, in the order in which columns begin. */
export const SCORECARD_COLUMNS = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "growth",
  "to-date",
  "to-date-delta",
  "outlook",
  "outlook-delta",
  "trend",
  "words",
] as const;
export type ScorecardColumn = (typeof SCORECARD_COLUMNS)[number];

/** What is shown where nothing else is said: fit for most scorecards as it is. */
export const DEFAULT_COLUMNS: readonly ScorecardColumn[] = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "trend",
];

/** A scorecard: KPIs by row, in groups; columns in an order. */
export interface ScorecardDefinition extends PanelBase {
  readonly kind: "scorecard";
  readonly groups: readonly { readonly title: string; readonly kpis: readonly string[] }[];
  readonly columns?: readonly ScorecardColumn[] | undefined;
  /** Whether rows are marked whose month lies outside of what was expected of it. */
  readonly marksOutside?: boolean | undefined;
  /** The dimension whose members a row opens into; the company's first where nothing is said. */
  readonly expandBy?: string | undefined;
}
