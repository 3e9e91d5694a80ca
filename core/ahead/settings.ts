import type { Method } from "../forecast/method-names.ts";
import type { Grain } from "../series/grain.ts";

/** Whether a KPI by formula is forecast by its inputs, and computed then, or as the series that it is. */
export const FORECAST_WAYS = ["inputs", "itself"] as const;
export type ForecastWay = (typeof FORECAST_WAYS)[number];

/** How a KPI is forecast; what is not said is found out. */
export interface AheadSettings {
  /** How many periods ahead. */
  readonly horizon?: number | undefined;
  /** How many of the last periods are left out, so that the forecast can be seen beside what came. */
  readonly without?: number | undefined;
  /** The level of the interval in percent; 80 and 95 where nothing is said. */
  readonly level?: number | undefined;
  /** How many periods make a season, 1 for none. */
  readonly season?: number | undefined;
  readonly method?: Method | undefined;
  readonly way?: ForecastWay | undefined;
  readonly log?: boolean | undefined;
  /** Periods by their keys that are no part of the pattern. */
  readonly leaveOut?: readonly string[] | undefined;
  /** Periods by their keys from which on the level is another one. */
  readonly steps?: readonly string[] | undefined;
}

/** The horizon where nothing is said, and the longest, by grain. */
export const HORIZONS: Readonly<Record<Grain, { readonly usual: number; readonly most: number }>> = {
  day: { usual: 28, most: 92 },
  week: { usual: 13, most: 52 },
  month: { usual: 12, most: 36 },
  quarter: { usual: 4, most: 12 },
  year: { usual: 2, most: 5 },
};

/** The season that a grain has by itself. */
export const USUAL_SEASON: Readonly<Record<Grain, number>> = { day: 7, week: 52, month: 12, quarter: 4, year: 1 };

export const MOST_WITHOUT = 24;
export const LEAST_LEVEL = 50;
export const MOST_LEVEL = 99;
export const MOST_SEASON = 60;
export const MOST_MARKED = 40;

/** The levels of the intervals of a setting. */
export function levelsOf({ level }: AheadSettings): readonly number[] {
  return level === undefined ? [80, 95] : [level];
}

/** How far ahead a setting looks, within what a grain allows. */
export function horizonOf({ horizon }: AheadSettings, grain: Grain): number {
  const { usual, most } = HORIZONS[grain];
  return Math.max(1, Math.min(most, horizon ?? usual));
}

/** By which periods something can be out of the ordinary. */
export const RANGE_GRAINS = ["day", "week", "month"] as const;
export type RangeGrain = (typeof RANGE_GRAINS)[number];

/** The probability of an expected range in percent where nothing is said. */
export const USUAL_RANGE_LEVEL = 95;
