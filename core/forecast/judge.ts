import type { MethodFit } from "./methods.ts";
import type { Fitted, Projection } from "./projection.ts";

/** What a method said of a period, and what was seen, from one origin. */
export interface JudgedPeriod {
  /** How many periods ahead, from 1. */
  readonly ahead: number;
  readonly error: number;
  readonly variance: number;
  readonly seen: number;
  readonly said: number;
}

/** How far from the beginning of a series the first origin is, at the least. */
const LEAST_HISTORY = 0.4;
const MOST_ORIGINS = 4;

/**
 * The lengths of history from which a series is forecast to judge methods, the longest first: a few, spread over
 * its last part, each with at least two seasons behind it. None where the series is too short for that.
 */
export function rollingOrigins(n: number, season: number, horizon: number): number[] {
  const stride = Math.max(
    1,
    Math.min(horizon, season > 1 && season <= 24 ? Math.max(3, Math.round(season / 2)) : horizon),
  );
  const least = Math.max(2 * Math.min(season, 12) + 4, Math.ceil(n * LEAST_HISTORY));
  return Array.from({ length: MOST_ORIGINS }, (_, i) => n - (i + 1) * stride).filter((cut) => cut >= least);
}

/** What each method would have said from each origin, and what was seen. Methods that could not be fitted then have less. */
export function judgeMethods(
  y: Float64Array,
  fits: readonly MethodFit[],
  origins: readonly number[],
  horizon: number,
): JudgedPeriod[][][] {
  return fits.map(({ again }) =>
    origins.map((origin) => {
      const fit = again(y.slice(0, origin));
      return fit ? judged(y, origin, fit.project(Math.min(horizon, y.length - origin))) : [];
    }),
  );
}

function judged(y: Float64Array, origin: number, projections: readonly Projection[]): JudgedPeriod[] {
  return projections.flatMap(({ mean, variance }, i) => {
    const seen = y[origin + i]!;
    return Number.isNaN(seen) ? [] : [{ ahead: i + 1, error: seen - mean, variance, seen, said: mean }];
  });
}

/** Older origins count for this much of the next later one. */
const FADING = 0.8;
/** How strongly being right before counts: weights are the inverse of the mean root of the errors to this power. */
const TRUST = 8;

/**
 * How much each method's forecast counts in the combination of them, adding up to one; alike where nothing was
 * judged. By the square roots of errors, so that one bad period decides little.
 */
export function weightsOf(judgements: readonly JudgedPeriod[][][]): number[] {
  const losses = judgements.map((origins) => {
    if (origins.length === 0 || origins.some((own) => own.length === 0)) return Infinity;
    let [sum, weights] = [0, 0];
    origins.forEach((own, age) => {
      for (const { error } of own) {
        sum += FADING ** age * Math.sqrt(Math.abs(error));
        weights += FADING ** age;
      }
    });
    return sum / weights;
  });
  const least = Math.min(...losses);
  if (!Number.isFinite(least)) return judgements.map(() => 1 / judgements.length);
  // A method that was exactly right takes all; those as right share it.
  const raw = losses.map((own) => (least === 0 ? Number(own === 0) : (least / own) ** TRUST));
  const sum = raw.reduce((all, own) => all + own, 0);
  return raw.map((own) => own / sum);
}

/** Several methods as one: the weighted mean of what they say, with the variance that their disagreement adds. */
export function combine(fits: readonly Fitted[], weights: readonly number[], name: string): Fitted {
  const mixed = (values: readonly number[]) => values.reduce((sum, value, i) => sum + weights[i]! * value, 0);
  return {
    name,
    parameters: Object.fromEntries(
      fits.flatMap(({ name: own, parameters }, i) => [
        [`weight of ${own}`, weights[i]!],
        ...Object.entries(parameters).map(([of, value]) => [`${of} of ${own}`, value] as const),
      ]),
    ),
    fitted: fits[0]!.fitted.map((_, t) => mixed(fits.map(({ fitted }) => fitted[t]!))),
    project: (horizon) =>
      combineProjections(
        fits.map(({ project }) => project(horizon)),
        weights,
      ),
  };
}

export function combineProjections(
  projections: readonly (readonly Projection[])[],
  weights: readonly number[],
): Projection[] {
  return projections[0]!.map((_, i) => {
    const own = projections.map((one) => one[i]!);
    const mean = own.reduce((sum, one, k) => sum + weights[k]! * one.mean, 0);
    const variance = own.reduce((sum, one, k) => sum + weights[k]! * (one.variance + (one.mean - mean) ** 2), 0);
    return { mean, variance };
  });
}

/** The same of what was judged: the combination's errors from each origin. */
export function combineJudgements(
  judgements: readonly (readonly JudgedPeriod[][])[],
  weights: readonly number[],
): JudgedPeriod[][] {
  const used = judgements.flatMap((own, i) => (weights[i]! > 0 ? [{ own, weight: weights[i]! }] : []));
  return used[0]!.own.map((first, origin) =>
    first.map((period, at) => {
      const all = used.map(({ own }) => own[origin]![at]!);
      const [mixed] = combineProjections(
        all.map(({ said, variance }) => [{ mean: said, variance }]),
        used.map(({ weight }) => weight),
      );
      return { ...period, said: mixed!.mean, variance: mixed!.variance, error: period.seen - mixed!.mean };
    }),
  );
}

/** How much of what a model believes of its own errors is kept before there is evidence, counted in origins. */
const PRIOR = 4;
const LEAST_FACTOR = 0.6;
const MOST_FACTOR = 9;

/**
 * By what the variances of a method have to be multiplied to fit the errors that it made from the origins; drawn
 * towards what the method believes where there are few.
 */
export function varianceFactor(judgement: readonly (readonly JudgedPeriod[])[]): number {
  const origins = judgement.filter((own) => own.length > 0);
  const ratios = origins.flat().flatMap(({ error, variance }) => (variance > 0 ? [(error * error) / variance] : []));
  if (ratios.length === 0) return 1;
  const seen = ratios.reduce((sum, ratio) => sum + Math.min(ratio, 25), 0) / ratios.length;
  const factor = (origins.length * seen + PRIOR) / (origins.length + PRIOR);
  return Math.min(MOST_FACTOR, Math.max(LEAST_FACTOR, factor));
}
