import type { ChartBase } from "../panel-base.ts";

/** What stands along one side of a heat grid. */
export type HeatAxis =
  | { readonly kind: "member"; readonly dimension: string; readonly level: string | null }
  | { readonly kind: "month" }
  | { readonly kind: "weekday" }
  | { readonly kind: "year" };

/** What a cell's shade tells. */
export const HEAT_SHADES = ["value", "delta-percent", "judgement"] as const;
export type HeatShade = (typeof HEAT_SHADES)[number];

/** At most so many members stand along a side. */
export const MOST_ALONG = 60;
export const MOST_YEARS = 12;

/** A KPI by two of member, month, weekday and year, as shaded cells. */
export interface HeatDefinition extends ChartBase {
  readonly kind: "heat";
  readonly kpi: string;
  readonly rows: HeatAxis;
  readonly columns: HeatAxis;
  readonly shade: HeatShade;
  /** How many fiscal years it reaches back, the as-of month's included. */
  readonly years: number;
  readonly hasLabels?: boolean | undefined;
}

/** What a reader can choose of a heat grid, as an address has it. */
export interface HeatChoice {
  readonly kpi?: string | undefined;
  readonly shade?: HeatShade | undefined;
  readonly table?: "open" | undefined;
}
