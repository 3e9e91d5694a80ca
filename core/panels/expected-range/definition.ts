import type { RangeGrain } from "../../ahead/settings.ts";
import type { ChartBase } from "../panel-base.ts";
import type { RepeatBy } from "../parts/repetition.ts";

/** How many periods are judged where nothing is said, and at the most. */
export const RANGE_PERIODS: Readonly<Record<RangeGrain, { readonly usual: number; readonly most: number }>> = {
  day: { usual: 61, most: 400 },
  week: { usual: 26, most: 104 },
  month: { usual: 18, most: 48 },
};

/** A dimension is judged member by member where it has at most so many. */
export const MOST_JUDGED = 24;

/** A KPI's actual in the range that history led one to expect, with what lies outside named and dated. */
export interface ExpectedRangeDefinition extends ChartBase {
  readonly kind: "expected-range";
  readonly kpi: string;
  readonly grain: RangeGrain;
  /** How many of the last periods are judged. */
  readonly last?: number | undefined;
  /** The probability of the range in percent; 95 where nothing is said. */
  readonly level?: number | undefined;
  /** Whose members are judged by themselves, so that an event says where it was. */
  readonly split?: RepeatBy | undefined;
}

/** What a reader can choose of it, as an address has it. */
export interface ExpectedRangeChoice {
  readonly kpi?: string | undefined;
  readonly grain?: RangeGrain | undefined;
  readonly last?: number | undefined;
  readonly level?: number | undefined;
  readonly table?: "open" | undefined;
}
