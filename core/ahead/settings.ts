import type { Grain } from "../series/grain.ts";
/** Whether a KPI by formula is forecast by its inputs, and computed then, or as the series that it is. */
export const FORECAST_WAYS = ["inputs", "itself"] as const;
export type ForecastWay = (typeof FORECAST_WAYS)[number];
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
/** By which periods something can be out of the ordinary. */
export const RANGE_GRAINS = ["day", "week", "month"] as const;
export type RangeGrain = (typeof RANGE_GRAINS)[number];

/** The probability of an expected range in percent where nothing is said. */
export const USUAL_RANGE_LEVEL = 95;
