import type { Grain } from "../../series/grain.ts";
import type { ChartBase } from "../panel-base.ts";

/** On what growth is taken. */
export const GROWTH_ON = ["prior-period", "prior-year"] as const;
export type GrowthOn = (typeof GROWTH_ON)[number];
export const GROWTH_GRAINS = ["month", "quarter", "year"] as const;

/** Whether growth is shown over time, or by members over the frame's span. */
export type GrowthBy =
  | { readonly kind: "time"; readonly grain: Exclude<Grain, "day" | "week">; readonly last: number | null }
  | { readonly kind: "member"; readonly dimension: string; readonly level: string | null };

/** A range of growth with a colour of its own, up to and without `below`; the last one has no end. */
export interface GrowthRange {
  /** As a fraction, for KPIs in percent as points of it. */
  readonly below: number | null;
  readonly name: string;
  /** A place among the dyer's colours, 0 to 7. */
  readonly dye: number;
}

export const MOST_RANGES = 6;

/** Whether a KPI's growth quickens or slows. */
export interface GrowthDefinition extends ChartBase {
  readonly kind: "growth";
  readonly kpi: string;
  readonly on: GrowthOn;
  readonly by: GrowthBy;
  /** Colours by ranges of one's own; by judgement where there are none. */
  readonly ranges: readonly GrowthRange[] | null;
  readonly hasLabels?: boolean | undefined;
}

/** What a reader can choose of it, as an address has it. */
export interface GrowthChoice {
  readonly kpi?: string | undefined;
  readonly on?: GrowthOn | undefined;
  readonly grain?: Exclude<Grain, "day" | "week"> | undefined;
  readonly table?: "open" | undefined;
}

/** What is wrong with ranges, in a sentence; `null` where they follow each other up to no end. */
export function rangesProblem(ranges: readonly GrowthRange[]): string | null {
  for (const [i, { below, name }] of ranges.entries()) {
    const isLast = i === ranges.length - 1;
    if (isLast !== (below === null))
      return isLast
        ? `"${name}" is the last range: leave its end open.`
        : `"${name}" needs an end: another follows it.`;
    const before = ranges[i - 1]?.below;
    if (below !== null && before !== undefined && before !== null && below <= before)
      return `"${name}" ends at ${below}, where the range before it ends already: let each end later than the one before.`;
  }
  return null;
}
