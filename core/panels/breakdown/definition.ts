import type { ChartBase } from "../panel-base.ts";
import type { Stacking } from "../parts/stacking.ts";
import type { RepeatBy, RepeatOrder } from "../parts/repetition.ts";

/** What else each member's bar is taken apart by: a second dimension, the scenarios, or several KPIs of one unit. */
export type ClusterBy =
  ({ readonly kind: "dimension" } & RepeatBy) | { readonly kind: "scenarios" } | { readonly kind: "kpis" };

/** What a breakdown can leave out. */
export const BREAKDOWN_PARTS = ["basis", "delta", "delta-percent", "total"] as const;
export type BreakdownPart = (typeof BREAKDOWN_PARTS)[number];

/** At most so many parts are told apart by colour; the rest are gathered. */
export const MOST_PARTS = 8;

/** Who makes a KPI, and who is off plan: its members' bars. The first KPI is shown until the reader chooses another. */
export interface BreakdownDefinition extends ChartBase {
  readonly kind: "breakdown";
  readonly kpis: readonly string[];
  readonly by: RepeatBy;
  readonly cluster: ClusterBy | null;
  readonly stacking: Stacking;
  readonly order: RepeatOrder;
  readonly isReversed: boolean;
  /** How many members stand apart; the others are gathered in one. `null`: all. */
  readonly top: number | null;
  readonly hides?: readonly BreakdownPart[] | undefined;
}

/** What a reader can choose of a breakdown, as an address has it. */
export interface BreakdownChoice {
  readonly kpi?: string | undefined;
  readonly order?: RepeatOrder | undefined;
  readonly reversed?: "yes" | "no" | undefined;
  readonly top?: number | "all" | undefined;
  readonly below?: string | undefined;
  readonly stacking?: Stacking | undefined;
  readonly table?: "open" | undefined;
}
