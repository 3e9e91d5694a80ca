import { accuracyOf, naiveError, type Accuracy } from "./accuracy.ts";
import { forecastSeries } from "./forecast-series.ts";
import { LEVELS, type ForecastInput, type ForecastOptions } from "./forecast.ts";
import type { Method } from "./method-names.ts";

/** What is tried again on a series' own past. */
export interface BacktestOptions extends Omit<ForecastOptions, "method" | "form" | "ignoreLast"> {
  /** From how many origins, the last so many periods before the end; as many as there is history for. */
  readonly origins?: number | undefined;
  /** How many periods lie between two origins. */
  readonly stride?: number | undefined;
  /** The methods that are tried besides the default choice. */
  readonly methods?: readonly Method[] | undefined;
}

/** How a method did from all origins. */
export interface BacktestRow extends Accuracy {
  /** `null` for the default choice, made anew at every origin from what was known there. */
  readonly method: Method | null;
  readonly byHorizon: readonly {
    /** How many periods ahead, from 1. */
    readonly ahead: number;
    readonly mae: number;
    /** The mean of what was seen less what was said. */
    readonly bias: number;
    readonly n: number;
  }[];
  readonly coverage: readonly { readonly level: number; readonly share: number }[];
}

/** What a backtest found, or why there is none. */
export type Backtest =
  | {
      /** How many periods were known at each origin, the latest first. */
      readonly origins: readonly number[];
      readonly rows: readonly BacktestRow[];
    }
  | { readonly notFitted: string };

const USUAL_ORIGINS = 8;
const LEAST_KNOWN = 12;

/**
 * Forecasts a series from earlier origins, everything fitted and chosen anew from what was known there, and compares
 * with what was seen: slower than the judgement a forecast makes of itself, and without any look at later periods.
 */
export function backtest(input: ForecastInput, options: BacktestOptions): Backtest {
  const { horizon, levels = LEVELS, origins: wanted = USUAL_ORIGINS, stride = 1, methods = [] } = options;
  const { values, season } = input;
  const least = Math.max(LEAST_KNOWN, season > 1 ? 2 * season + 1 : 0);
  const origins = Array.from({ length: wanted }, (_, i) => values.length - horizon - i * stride).filter(
    (known) => known >= least,
  );
  if (origins.length === 0)
    return {
      notFitted: `The series is too short for backtests: ${horizon} ahead needs at least ${least + horizon} periods, and there are ${values.length}.`,
    };
  const rows = [null, ...methods].flatMap((method) => {
    const periods = origins.flatMap((known) => {
      const past = { ...input, values: values.slice(0, known) };
      const forecast = forecastSeries(past, { ...options, ...(method === null ? {} : { method }) });
      if ("notFitted" in forecast) return [];
      const scale = scaleOf(past.values, season);
      return forecast.points.flatMap((said, i) => {
        const seen = values[known + i] ?? null;
        if (seen === null || !Number.isFinite(seen)) return [];
        const held = forecast.intervals.map(({ lower, upper }) => seen >= lower[i]! && seen <= upper[i]!);
        return [{ ahead: i + 1, seen, said, scale, held }];
      });
    });
    return periods.length === 0 ? [] : [rowOf(method, periods, levels)];
  });
  return rows.length === 0
    ? { notFitted: "No method could be fitted at any of the earlier origins." }
    : { origins, rows };
}

interface Tried {
  readonly ahead: number;
  readonly seen: number;
  readonly said: number;
  /** The mean error of the seasonal naive forecast in what was known. */
  readonly scale: number;
  readonly held: readonly boolean[];
}

function rowOf(method: Method | null, periods: readonly Tried[], levels: readonly number[]): BacktestRow {
  const mean = (of: (one: Tried) => number, among: readonly Tried[] = periods) =>
    among.reduce((sum, one) => sum + of(one), 0) / among.length;
  const accuracy = accuracyOf(
    periods.map(({ seen }) => seen),
    periods.map(({ said }) => said),
    1,
  );
  const farthest = Math.max(...periods.map(({ ahead }) => ahead));
  return {
    method,
    ...accuracy,
    mase: mean(({ seen, said, scale }) => Math.abs(seen - said) / scale),
    byHorizon: Array.from({ length: farthest }, (_, i) => periods.filter(({ ahead }) => ahead === i + 1)).flatMap(
      (own, i) =>
        own.length === 0
          ? []
          : [
              {
                ahead: i + 1,
                mae: mean(({ seen, said }) => Math.abs(seen - said), own),
                bias: mean(({ seen, said }) => seen - said, own),
                n: own.length,
              },
            ],
    ),
    coverage: levels.map((level, i) => ({ level, share: mean(({ held }) => Number(held[i])) })),
  };
}

function scaleOf(values: readonly (number | null)[], season: number): number {
  const y = Float64Array.from(values, (value) => value ?? NaN);
  return naiveError(y, season) || naiveError(y, 1);
}
