import type { PanelBase } from "../panel-base.ts";

/** Where a KPI ends the year, by every source that can tell, side by side. */
export interface OutlookDefinition extends PanelBase {
  readonly kind: "outlook";
  readonly kpi: string;
  /** The sources, by their keys; the usual ones where nothing is said. */
  readonly sources?: readonly string[] | undefined;
}

/** What a reader can choose of it, as an address has it. */
export interface OutlookChoice {
  readonly kpi?: string | undefined;
  readonly table?: "open" | undefined;
}

/** The sources that are compared where nothing is said, beside the latest forecast. */
export const USUAL_SOURCES = ["latest", "model", "budget", "run-rate", "prior-year"] as const;
export const MOST_SOURCES = 10;
