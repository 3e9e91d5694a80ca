import type { AheadSettings, ForecastWay } from "../../ahead/settings.ts";
import type { Method } from "../../forecast/method-names.ts";
import type { ReferenceLine } from "../../series/reference-kinds.ts";
import type { Grain } from "../../series/grain.ts";
import type { ChartBase } from "../panel-base.ts";
import type { RepeatBy } from "../parts/repetition.ts";
import type { Stacking } from "../parts/stacking.ts";

/** What a chart over time can leave out. */
export const CHART_SERIES = ["forecast", "budget", "target", "prior-year"] as const;
export type ChartSeries = (typeof CHART_SERIES)[number];

/**
 * How it is drawn; of both, the actual stands as columns, and what it is compared with runs as lines; bars lie, with the
 * periods down the side.
 */
export const TIME_MARKS = ["columns", "lines", "both", "bars"] as const;
export type TimeMarks = (typeof TIME_MARKS)[number];

/** What the strip below says of each period. */
export const TIME_STRIPS = ["delta", "delta-percent", "growth", "growth-on-year", "none"] as const;
export type TimeStrip = (typeof TIME_STRIPS)[number];

/** Over how many periods a moving average runs. */
export const MOVING_PERIODS = [3, 6, 12] as const;

/** A chart shows at most so many KPIs, and tells so many members apart; the rest are gathered. */
export const MOST_KPIS_OVER_TIME = 6;
export const MOST_PINS = 12;

/** The mean of a few periods in a row: the last ones, or those around each. */
export interface MovingAverage {
  readonly periods: (typeof MOVING_PERIODS)[number];
  readonly isCentred: boolean;
}

/** A note that stands at a period, by its key: "2026-09". */
export interface PinnedNote {
  readonly period: string;
  readonly text: string;
}

/** One KPI over time, several of one unit, or one split by members; `kpi` is shown until the reader chooses another. */
export interface TimeChartDefinition extends ChartBase {
  readonly kind: "time-chart";
  readonly kpi: string;
  /** Further KPIs of its unit, beside it. */
  readonly others?: readonly string[] | undefined;
  /** By whose members the KPI is split; where it is, it stands alone. */
  readonly split?: RepeatBy | undefined;
  /** How several series stand as columns; lines run beside each other. */
  readonly stacking?: Stacking | undefined;
  /** A KPI of another unit, as a line with an axis of its own at the right. */
  readonly right?: string | undefined;
  /** How it is drawn until the reader chooses otherwise; by the KPI's kind where nothing is said. */
  readonly marks?: TimeMarks | undefined;
  /** How finely it is told, until the reader chooses otherwise; by month where nothing is said. */
  readonly grain?: Grain | undefined;
  /** How many periods it shows; as many as are usual where nothing is said. */
  readonly last?: number | undefined;
  /** What is left out besides the actual. */
  readonly hides?: readonly ChartSeries[] | undefined;
  /** What stands below on the same periods: Δ where nothing is said. */
  readonly strip?: TimeStrip | undefined;
  readonly moving?: MovingAverage | undefined;
  /** Whether a straight line through the actual is drawn, with its slope and how closely it fits. */
  readonly hasTrend?: boolean | undefined;
  readonly pins?: readonly PinnedNote[] | undefined;
  /** Whether values stand beside their marks. */
  readonly hasLabels?: boolean | undefined;
  readonly references?: readonly ReferenceLine[] | undefined;
  /** The percentage of the expected range that is drawn until the reader chooses otherwise; none where nothing is said. */
  readonly range?: number | undefined;
  /** How it looks ahead until the reader chooses otherwise; it does not where nothing is said. */
  readonly ahead?: AheadSettings | undefined;
}

/** What a reader can choose of a chart over time, as an address has it. */
export interface TimeChartChoice {
  readonly kpi?: string | undefined;
  readonly marks?: TimeMarks | undefined;
  readonly grain?: Grain | undefined;
  readonly stacking?: Stacking | undefined;
  readonly strip?: TimeStrip | undefined;
  /** The fiscal year of the reference lines of a chosen year. */
  readonly year?: number | undefined;
  /** Whether the expected range is drawn. */
  readonly range?: "on" | "off" | undefined;
  /** Whether it looks ahead, and how. */
  readonly ahead?: "on" | "off" | undefined;
  readonly horizon?: number | undefined;
  readonly without?: number | undefined;
  readonly level?: number | undefined;
  readonly season?: number | undefined;
  readonly method?: Method | undefined;
  readonly way?: ForecastWay | undefined;
  /** Whether intervals are drawn for all periods ahead, or for the one that is looked at. */
  readonly fan?: "all" | "one" | undefined;
  /** Whether the model notes stand beside the page. */
  readonly notes?: "open" | undefined;
  readonly table?: "open" | undefined;
}
