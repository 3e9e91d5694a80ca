import type { Grain } from "../../series/grain.ts";
import type { ChartBase } from "../panel-base.ts";

/** What each point is: a member, or a period. */
export type ScatterBy =
  | { readonly kind: "member"; readonly dimension: string; readonly level: string | null }
  | { readonly kind: "period"; readonly grain: Exclude<Grain, "day" | "week">; readonly last: number };

/** Where lines part the plot in four. */
export const QUADRANTS = ["none", "average", "basis"] as const;
export type Quadrants = (typeof QUADRANTS)[number];
export const SCATTER_GRAINS = ["month", "quarter", "year"] as const;
export const MOST_POINTS = 200;

/** Whether two KPIs go together, by member or by period. */
export interface ScatterDefinition extends ChartBase {
  readonly kind: "scatter";
  readonly x: string;
  readonly y: string;
  /** The KPI that decides how large a point is. */
  readonly size: string | null;
  readonly by: ScatterBy;
  readonly quadrants: Quadrants;
  readonly hasLine: boolean;
}

/** What a reader can choose of a scatter, as an address has it. */
export interface ScatterChoice {
  readonly below?: string | undefined;
  readonly table?: "open" | undefined;
}
