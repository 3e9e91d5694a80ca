import { accuracyOf, naiveError } from "../accuracy.ts";
import { forecastSeries } from "../forecast-series.ts";
import { fitNaive } from "../naive.ts";
import type { Projection } from "../projection.ts";
import { chooseSmoothing } from "../smoothing/choose.ts";
import { projectSmoothing } from "../smoothing/project.ts";
import { fitTheta } from "../theta.ts";
import { judgedSeries, type JudgedSeries } from "./kinds.ts";

/** The single methods that the default choice is measured by, and it. */
export const COMPARED = ["Seasonal naive", "Theta", "ETS by AICc", "Hackle's choice"] as const;
export type Compared = (typeof COMPARED)[number];

/** How the methods did on one kind of series: means of MASE over series and origins, and what the intervals held. */
export interface KindRow {
  readonly kind: string;
  readonly forecasts: number;
  readonly mase: Readonly<Record<Compared, number>>;
  /** The share of what was held back that lay in the intervals of 80 and 95 percent. */
  readonly held: { readonly narrow: number; readonly wide: number };
}

const ORIGINS = 3;

/** Forecasts every series of a half from its last origins by every method, and compares with what was held back. */
export function judgeDefault(half: "settings" | "report", each: number): KindRow[] {
  const all = judgedSeries(half, each);
  const kinds = [...new Set(all.map(({ kind }) => kind))];
  return kinds.map((kind) => rowOf(kind, all.filter((series) => series.kind === kind).flatMap(judged)));
}

/** Months of history by which the default choice is judged: what a company has in its second to sixth year. */
export const LENGTHS = [18, 24, 30, 36, 48, 72] as const;

/** How the methods did on monthly series of which only so many months are known, a length a row. */
export function judgeByLength(half: "settings" | "report", each: number): KindRow[] {
  const monthly = judgedSeries(half, each).filter(({ season }) => season === 12);
  return LENGTHS.map((length) =>
    rowOf(
      `${length} months`,
      monthly.flatMap((series) => judgedAt(series, length)),
    ),
  );
}

function judgedAt({ firstMonth, ...series }: JudgedSeries, length: number): Judged[] {
  const { values, horizon } = series;
  const stride = Math.max(1, Math.floor(horizon / 2));
  const cuts = Array.from({ length: ORIGINS }, (_, o) => values.length - horizon - o * stride);
  return cuts
    .filter((cut) => cut >= length)
    .flatMap((cut) =>
      judgedFrom(
        {
          ...series,
          values: values.slice(cut - length, cut + horizon),
          ...(firstMonth === undefined ? {} : { firstMonth: firstMonth + cut - length }),
        },
        length,
        // One scale for all lengths: what the whole series has.
        Float64Array.from(values),
      ),
    );
}

interface Judged {
  readonly mase: Readonly<Record<Compared, number>>;
  readonly narrow: number;
  readonly wide: number;
  readonly seen: number;
}

function judged(series: JudgedSeries): Judged[] {
  const { values: all, horizon } = series;
  const stride = Math.max(1, Math.floor(horizon / 2));
  const cuts = Array.from({ length: ORIGINS }, (_, o) => all.length - horizon - o * stride);
  return cuts.flatMap((cut) => judgedFrom(series, cut, Float64Array.from(all.slice(0, cut))));
}

/** A series forecast from one origin by every method; `measured` is what errors are scaled by. */
function judgedFrom(
  { values: all, season, horizon, firstMonth }: JudgedSeries,
  cut: number,
  measured: Float64Array,
): Judged[] {
  const values = all.slice(0, cut);
  const y = Float64Array.from(values);
  const seen = all.slice(cut, cut + horizon);
  const forecast = forecastSeries({ values, season, firstMonth }, { horizon });
  const smoothing = chooseSmoothing(y, season);
  const [theta, naive] = [fitTheta(y, season), fitNaive(y, season)];
  if (cut < 12 || "notFitted" in forecast || !smoothing || !theta || !naive) return [];
  const scale = naiveError(measured, season) || naiveError(measured, 1);
  const maseOf = (said: readonly number[]) => accuracyOf(seen, said, scale).mase;
  const means = (projections: readonly Projection[]) => maseOf(projections.map(({ mean }) => mean));
  const held = forecast.intervals.map(
    ({ lower, upper }) => seen.filter((value, i) => value >= lower[i]! && value <= upper[i]!).length,
  );
  return [
    {
      mase: {
        "Seasonal naive": means(naive.project(horizon)),
        Theta: means(theta.project(horizon)),
        "ETS by AICc": means(projectSmoothing(smoothing.chosen, horizon)),
        "Hackle's choice": maseOf(forecast.points),
      },
      narrow: held[0]!,
      wide: held[1]!,
      seen: seen.length,
    },
  ];
}

function rowOf(kind: string, all: readonly Judged[]): KindRow {
  const mean = (of: (one: Judged) => number) => all.reduce((sum, one) => sum + of(one), 0) / all.length;
  const seen = mean((one) => one.seen);
  const mase = Object.fromEntries(COMPARED.map((name) => [name, mean((one) => one.mase[name])]));
  return {
    kind,
    forecasts: all.length,
    mase: mase as Record<Compared, number>,
    held: { narrow: mean(({ narrow }) => narrow) / seen, wide: mean(({ wide }) => wide) / seen },
  };
}

/** All kinds as one: each forecast counts alike. */
export function allKinds(rows: readonly KindRow[]): KindRow {
  const forecasts = rows.reduce((sum, row) => sum + row.forecasts, 0);
  const mean = (of: (row: KindRow) => number) =>
    rows.reduce((sum, row) => sum + of(row) * row.forecasts, 0) / forecasts;
  const mase = Object.fromEntries(COMPARED.map((name) => [name, mean((row) => row.mase[name])]));
  return {
    kind: "all",
    forecasts,
    mase: mase as Record<Compared, number>,
    held: { narrow: mean(({ held }) => held.narrow), wide: mean(({ held }) => held.wide) },
  };
}

/** By which share the default choice is nearer than the best single method. */
export function gainOf({ mase }: KindRow): number {
  const best = Math.min(...COMPARED.slice(0, -1).map((name) => mase[name]));
  return 1 - mase["Hackle's choice"] / best;
}
