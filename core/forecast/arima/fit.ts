import { minimise, type Objective, type SearchLimits } from "../numerics/minimise.ts";
import type { Projection } from "../projection.ts";
import { runThrough, sumBack, type ArimaRun } from "./errors.ts";
import { fromPartials, lagsOf, type ArimaLags } from "./lags.ts";
import { coefficientCount, nameOfOrder, type ArimaOrder } from "./order.ts";

/** A seasonal ARIMA model fitted to a series. */
export interface ArimaFit {
  readonly name: string;
  readonly order: ArimaOrder;
  readonly season: number;
  readonly lags: ArimaLags;
  readonly run: ArimaRun;
  /** The variance of the errors. */
  readonly variance: number;
  /** Comparable among models of the same differences of the same values. */
  readonly aicc: number;
  /** Where the search ended, from which a shorter series is fitted again. */
  readonly free: Float64Array;
}

/** Errors that a model needs beyond its coefficients. */
const LEAST_FREEDOM = 8;
const STEP = 1e-4;

/**
 * Fits a model by maximum likelihood of the errors given the first values; `null` where the series is too short for it. `y`
 * begins with a value, is NaN where nothing was observed, and above zero where logarithms are taken.
 */
export function fitArima(
  order: ArimaOrder,
  y: Float64Array,
  season: number,
  { near, limits = { leastGain: 1e-3, mostEvaluations: 30 } }: { near?: Float64Array; limits?: SearchLimits } = {},
): ArimaFit | null {
  const values = order.isLog ? y.map((value) => Math.log(value)) : y;
  const k = coefficientCount(order);
  const runAt = (x: Float64Array) => runThrough(values, lagsOf(order, season, x));
  const start = near ?? new Float64Array(k).fill(0.1);
  const first = runAt(start);
  if (first.count < k + LEAST_FREEDOM || !(first.squares > 0)) return null;
  const free = k === 0 ? start : minimise(likelihoodOf(runAt), start, limits).x;
  const run = runAt(free);
  if (!(run.squares > 0)) return null;
  const n = run.count;
  // The variance of the errors is one more number that is fitted.
  const own = k + 1;
  return {
    name: nameOfOrder(order, season),
    order,
    season,
    lags: lagsOf(order, season, free),
    run,
    variance: run.squares / Math.max(1, n - k),
    aicc: n * Math.log(run.squares / n) + 2 * own + (2 * own * (own + 1)) / Math.max(1, n - own - 1),
    free,
  };
}

/** Half of n times the logarithm of the mean squared error, with its slopes by small steps. */
function likelihoodOf(runAt: (x: Float64Array) => ArimaRun): Objective {
  return (x, gradient, curvature) => {
    const { squares, count, errors } = runAt(x);
    if (!Number.isFinite(squares) || squares <= 0) return Infinity;
    if (gradient && curvature) {
      const slopes = Array.from(x.keys(), (i) => {
        const moved = Float64Array.from(x);
        moved[i]! += STEP;
        return runAt(moved).errors.map((error, t) => (error - errors[t]!) / STEP);
      });
      const weight = count / squares;
      slopes.forEach((slope, i) => {
        gradient[i] = weight * dot(slope, errors);
        for (let j = 0; j <= i; j += 1) curvature[i * x.length + j] = weight * dot(slope, slopes[j]!);
      });
    }
    return (count / 2) * Math.log(squares / count);
  };
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let t = 0; t < a.length; t += 1) sum += a[t]! * b[t]!;
  return sum;
}

/** What a model says one step ahead of each period; NaN where not enough lies before. */
export function fittedByArima({ run, order }: ArimaFit): number[] {
  return Array.from(run.values, (value, t) => {
    if (t < run.from) return NaN;
    const said = value - run.errors[t]!;
    return order.isLog ? Math.exp(said) : said;
  });
}

/** What a model says of the periods to come: of logarithms the median, and the variance around it. */
export function projectArima({ order, lags, run, variance }: ArimaFit, horizon: number): Projection[] {
  const n = run.values.length;
  const grown = (own: Float64Array) => {
    const all = new Float64Array(n + horizon);
    all.set(own);
    return all;
  };
  const [e, w, y] = [run.errors, run.differences, run.values].map(grown) as [Float64Array, Float64Array, Float64Array];
  // How a single error goes on: the weights of past errors in what is still to come.
  const [ringing, ringingW, one] = [new Float64Array(horizon), new Float64Array(horizon), new Float64Array(horizon)];
  if (horizon > 0) one[0] = 1;
  let spread = 0;
  return Array.from({ length: horizon }, (_, i) => {
    const t = n + i;
    w[t] = sumBack(w, lags.values, t, run.from) + sumBack(e, lags.errors, t, run.from);
    y[t] = w[t] + sumBack(y, lags.differences, t, 0);
    ringingW[i] = one[i]! + sumBack(ringingW, lags.values, i, 0) + sumBack(one, lags.errors, i, 0);
    ringing[i] = ringingW[i] + sumBack(ringing, lags.differences, i, 0);
    spread += ringing[i] ** 2 * variance;
    if (!order.isLog) return { mean: y[t], variance: spread };
    const median = Math.exp(y[t]);
    return { mean: median, variance: median * median * Math.exp(spread) * (Math.exp(spread) - 1) };
  });
}

/** The coefficients by the names of the trade: of earlier values, of earlier errors, and of both by season. */
export function namedCoefficients({ order, free }: ArimaFit): Record<string, number> {
  const { p, q, seasonal } = order;
  // Errors enter with a plus: their polynomial is written 1 + θB, and looked for as 1 − θB.
  const groups = [
    { name: "AR", count: p, sign: 1 },
    { name: "seasonal AR", count: seasonal.p, sign: 1 },
    { name: "MA", count: q, sign: -1 },
    { name: "seasonal MA", count: seasonal.q, sign: -1 },
  ];
  let from = 0;
  return Object.fromEntries(
    groups.flatMap(({ name, count, sign }) => {
      const own = fromPartials(Array.from({ length: count }, (_, i) => free[from + i]!));
      from += count;
      return own.map((value, i) => [`${name} ${i + 1}`, sign * value] as const);
    }),
  );
}
