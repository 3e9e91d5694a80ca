import type { PanelBase } from "../panel-base.ts";

/** How right the versions of a forecast were, beside the budget and the prior year. */
export interface AccuracyDefinition extends PanelBase {
  readonly kind: "accuracy";
  readonly kpi: string;
}

/** What a reader can choose of it, as an address has it. */
export interface AccuracyChoice {
  readonly kpi?: string | undefined;
  /** Only months that every version can be judged by; where nothing is said, if there are such. */
  readonly alike?: "on" | "off" | undefined;
  readonly table?: "open" | undefined;
}

/** As many months ahead are told apart. */
export const MOST_AHEAD = 12;
