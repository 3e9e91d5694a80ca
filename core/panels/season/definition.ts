import type { ChartBase } from "../panel-base.ts";

/** How a year is seen against others. */
export const SEASON_VIEWS = ["overlay", "band", "small", "against", "next"] as const;
export type SeasonView = (typeof SEASON_VIEWS)[number];

/** At most so many years stand beside the one under study. */
export const MOST_SEASONS = 12;

/** Whether a month is a normal one: a KPI by month of the year, over fiscal years. */
export interface SeasonDefinition extends ChartBase {
  readonly kind: "season";
  readonly kpi: string;
  readonly view: SeasonView;
  /** How many fiscal years before the one under study it is compared with. */
  readonly years: number;
  /** Whether the year under study counts in the average and the range. */
  readonly countsStudied: boolean;
}

/** What a reader can choose of it, as an address has it. */
export interface SeasonChoice {
  readonly kpi?: string | undefined;
  readonly view?: SeasonView | undefined;
  /** The fiscal year under study, as it is named. */
  readonly year?: string | undefined;
  readonly table?: "open" | undefined;
}
