import type { Month } from "../calendar/month.ts";
import type { Accuracy } from "./accuracy.ts";
import type { CalendarEffect, Regressor } from "./calendar-effects.ts";
import type { ResidualCheck } from "./diagnostics.ts";
import type { Method } from "./method-names.ts";
import type { SmoothingForm } from "./smoothing/form.ts";

/** A series by period; what is missing is `null`. */
export interface ForecastInput {
  readonly values: readonly (number | null)[];
  /** How many periods make a season; 1 where there is none. */
  readonly season: number;
  /** The calendar month of the first period, of monthly series: what of the calendar matters is then found out. */
  readonly firstMonth?: Month | undefined;
}

/** What of a forecast can be chosen. */
export interface ForecastOptions {
  /** How many periods are forecast, from the first after those kept. */
  readonly horizon: number;
  /** The probabilities of the intervals, or their percentages; 80 and 95 percent where nothing is said. */
  readonly levels?: readonly number[] | undefined;
  /** A method of one's own choice; the best of them, combined, where nothing is said. */
  readonly method?: Method | undefined;
  /** A form of exponential smoothing of one's own choice. */
  readonly form?: SmoothingForm | undefined;
  /** How many of the last periods are left out. */
  readonly ignoreLast?: number | undefined;
  /** Whether the logarithm is forecast. */
  readonly log?: boolean | undefined;
  /** Whether missing periods are filled by a straight line between their neighbours; otherwise they are stepped over. */
  readonly interpolates?: boolean | undefined;
  /** What no forecast can go beyond; nothing below 0 where nothing in the history is. */
  readonly bounds?: { readonly least?: number | undefined; readonly most?: number | undefined } | undefined;
  /** Periods that are no part of the pattern, counted from the first. Giant outliers are found where nothing is said. */
  readonly leaveOut?: readonly number[] | undefined;
  /** Periods of events that are known: they are left out, whatever else is. */
  readonly known?: readonly number[] | undefined;
  /** Periods that are how things are, far out or not: no giant outliers. */
  readonly usual?: readonly number[] | undefined;
  /** Periods in which the level shifts. */
  readonly steps?: readonly number[] | undefined;
  /** Effects of the calendar, of monthly series; working days where they clearly matter, if nothing is said. */
  readonly calendar?: readonly CalendarEffect[] | undefined;
  /** What else is known of every period, those to come among them. */
  readonly regressors?: readonly Regressor[] | undefined;
}

/** What a method would have been worth from earlier origins. */
export interface JudgedMethod extends Accuracy {
  readonly name: string;
  /** How much it counts in the forecast. */
  readonly weight: number;
}

/** What a data scientist wants to know of a forecast. */
export interface ForecastNotes {
  /** Why this model. */
  readonly why: string;
  readonly parameters: Readonly<Record<string, number>>;
  /** Of exponential smoothing; the likelihood up to a constant of the series' length. */
  readonly statistics: {
    readonly logLikelihood: number;
    readonly aic: number;
    readonly aicc: number;
    readonly bic: number;
    readonly parameterCount: number;
  } | null;
  /** The forms that were tried, by their AICc, the best first. */
  readonly tried: readonly { readonly name: string; readonly aicc: number }[];
  /** One step ahead within the history. */
  readonly inSample: Accuracy;
  /** From earlier origins, the forecast's own row first; `null` where the series is too short. */
  readonly backtest: {
    readonly origins: number;
    readonly horizon: number;
    readonly rows: readonly JudgedMethod[];
    /** The share of what was seen that its intervals held, by level. */
    readonly coverage: readonly { readonly level: number; readonly share: number }[];
  } | null;
  /** Whether it was nearer than the seasonal naive forecast; `null` where nothing could be judged. */
  readonly beatsSeasonalNaive: boolean | null;
  readonly residuals: ResidualCheck;
  /** How many periods it was fitted to. */
  readonly n: number;
  /** Periods that were left out, counted from the first. */
  readonly leftOut: readonly number[];
  readonly effects: readonly { readonly name: string; readonly coefficient: number; readonly t: number }[];
  readonly warnings: readonly string[];
}

/** A forecast that could be made. */
export interface MadeForecast {
  readonly model: { readonly name: string; readonly method: Method | "combination" };
  readonly points: readonly number[];
  readonly intervals: readonly {
    readonly level: number;
    readonly lower: readonly number[];
    readonly upper: readonly number[];
  }[];
  /** One step ahead, by period of the history; `null` where nothing could be said. */
  readonly fitted: readonly (number | null)[];
  readonly residuals: readonly (number | null)[];
  readonly notes: ForecastNotes;
}

/** A forecast, or why there is none. */
export type SeriesForecast = MadeForecast | { readonly notFitted: string };

/** The probabilities of intervals where nothing is said. */
export const LEVELS = [0.8, 0.95] as const;

/** A level as a probability: 80 is a percentage, and 0.8 the same. */
export function shareOf(level: number): number {
  return level > 1 ? level / 100 : level;
}
