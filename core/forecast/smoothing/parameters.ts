import type { SmoothingForm } from "./form.ts";

/** What a form is fitted with: how fast it learns, and where it begins. */
export interface SmoothingParameters {
  readonly alpha: number;
  /** `null` without a trend. */
  readonly beta: number | null;
  /** `null` without a season. */
  readonly gamma: number | null;
  /** `null` where the trend is not damped. */
  readonly phi: number | null;
  readonly level: number;
  readonly slope: number | null;
  /** The season's effects in the order of the first periods; `null` without a season. */
  readonly seasonal: readonly number[] | null;
}

/** Where α, β, γ and φ may lie; β at most α and γ at most 1 − α (the region in which old values lose weight). */
const LEAST = 1e-4;
const MOST = 1 - 1e-4;
const PHI = [0.8, 0.98] as const;

/**
 * How the numbers of a search, each of the whole line, stand for the parameters. Every parameter is a smooth
 * function of few of them, so that their derivatives are known exactly.
 */
export interface ParameterMap {
  readonly dimension: number;
  readonly hasTrend: boolean;
  readonly isDamped: boolean;
  readonly hasSeason: boolean;
  /** The place of each among the numbers; −1 where a form has none. */
  readonly at: {
    readonly alpha: number;
    readonly beta: number;
    readonly gamma: number;
    readonly phi: number;
    readonly level: number;
    readonly slope: number;
    readonly seasonal: number;
  };
}

export function parameterMap({ trend, season }: SmoothingForm, length: number): ParameterMap {
  let next = 0;
  const place = (is: boolean, count = 1) => {
    const at = is ? next : -1;
    if (is) next += count;
    return at;
  };
  const [hasTrend, isDamped, hasSeason] = [trend !== "none", trend === "damped", season !== "none"];
  const at = {
    alpha: place(true),
    beta: place(hasTrend),
    gamma: place(hasSeason),
    phi: place(isDamped),
    level: place(true),
    slope: place(hasTrend),
    // The last effect follows from the others: they add up to nothing, or multiply around one.
    seasonal: place(hasSeason, length - 1),
  };
  return { dimension: next, hasTrend, isDamped, hasSeason, at };
}

/** The logistic function of a number, and its slope. */
function logistic(x: number): { value: number; slope: number } {
  const value = 1 / (1 + Math.exp(-x));
  return { value, slope: value * (1 - value) };
}
function logit(p: number): number {
  const inside = Math.min(1 - 1e-7, Math.max(1e-7, p));
  return Math.log(inside / (1 - inside));
}

/** The four rates at a place of the search, with their derivatives by the numbers they depend on. */
export interface Rates {
  readonly alpha: number;
  readonly beta: number;
  readonly gamma: number;
  readonly phi: number;
  readonly alphaByAlpha: number;
  readonly betaByAlpha: number;
  readonly betaByBeta: number;
  readonly gammaByAlpha: number;
  readonly gammaByGamma: number;
  readonly phiByPhi: number;
}

export function ratesAt({ at, hasTrend, isDamped, hasSeason }: ParameterMap, x: Float64Array): Rates {
  const a = logistic(x[at.alpha]!);
  const alpha = LEAST + (MOST - LEAST) * a.value;
  const alphaByAlpha = (MOST - LEAST) * a.slope;
  const b = hasTrend ? logistic(x[at.beta]!) : { value: 0, slope: 0 };
  const g = hasSeason ? logistic(x[at.gamma]!) : { value: 0, slope: 0 };
  const p = isDamped ? logistic(x[at.phi]!) : { value: 0, slope: 0 };
  return {
    alpha,
    beta: alpha * b.value,
    gamma: (1 - alpha) * g.value,
    phi: isDamped ? PHI[0] + (PHI[1] - PHI[0]) * p.value : 1,
    alphaByAlpha,
    betaByAlpha: alphaByAlpha * b.value,
    betaByBeta: alpha * b.slope,
    gammaByAlpha: -alphaByAlpha * g.value,
    gammaByGamma: (1 - alpha) * g.slope,
    phiByPhi: (PHI[1] - PHI[0]) * p.slope,
  };
}

/** The numbers of a search that stand for parameters. */
export function searchStart(map: ParameterMap, parameters: SmoothingParameters): Float64Array {
  const { at } = map;
  const x = new Float64Array(map.dimension);
  const { alpha, beta, gamma, phi, level, slope, seasonal } = parameters;
  x[at.alpha] = logit((alpha - LEAST) / (MOST - LEAST));
  if (map.hasTrend) x[at.beta] = logit((beta ?? 0) / alpha);
  if (map.hasSeason) x[at.gamma] = logit((gamma ?? 0) / (1 - alpha));
  if (map.isDamped) x[at.phi] = logit(((phi ?? PHI[1]) - PHI[0]) / (PHI[1] - PHI[0]));
  x[at.level] = level;
  if (map.hasTrend) x[at.slope] = slope ?? 0;
  if (seasonal) for (let i = 0; i < seasonal.length - 1; i += 1) x[at.seasonal + i] = seasonal[i]!;
  return x;
}

/** The parameters at a place of the search; `total` is what the season's effects add up to. */
export function parametersAt(map: ParameterMap, x: Float64Array, length: number, total: number): SmoothingParameters {
  const { at } = map;
  const rates = ratesAt(map, x);
  const free = map.hasSeason ? Array.from(x.subarray(at.seasonal, at.seasonal + length - 1)) : [];
  return {
    alpha: rates.alpha,
    beta: map.hasTrend ? rates.beta : null,
    gamma: map.hasSeason ? rates.gamma : null,
    phi: map.isDamped ? rates.phi : null,
    level: x[at.level]!,
    slope: map.hasTrend ? x[at.slope]! : null,
    seasonal: map.hasSeason ? [...free, total - free.reduce((sum, own) => sum + own, 0)] : null,
  };
}
