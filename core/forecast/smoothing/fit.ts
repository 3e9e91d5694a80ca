import { minimise, type Objective, type SearchLimits } from "../numerics/minimise.ts";
import { formName, parameterCount, type SmoothingForm } from "./form.ts";
import { minusTwoLogLikelihood } from "./likelihood.ts";
import { parametersAt, searchStart, type ParameterMap, type SmoothingParameters } from "./parameters.ts";
import { FIRST_RATES, firstStates } from "./start.ts";

/** A form fitted to a series. */
export interface SmoothingFit {
  readonly name: string;
  readonly form: SmoothingForm;
  /** Periods in a season; 1 where the form has none. */
  readonly length: number;
  readonly parameters: SmoothingParameters;
  /** The states after the last period. */
  readonly last: { readonly level: number; readonly slope: number; readonly seasonal: readonly number[] };
  /** One step ahead, from what was known before each period. */
  readonly fitted: readonly number[];
  /** What the errors of the form are: absolute, or relative to the fitted value; NaN where nothing was observed. */
  readonly innovations: readonly number[];
  /** Their variance, corrected for the parameters that were fitted. */
  readonly variance: number;
  /** The logarithm of the likelihood, up to a constant of the series' length. */
  readonly logLikelihood: number;
  /** How many parameters were fitted, the variance among them. */
  readonly parameterCount: number;
  readonly observed: number;
  readonly aic: number;
  /** Corrected for short series; infinite where there are too few periods for the parameters. */
  readonly aicc: number;
  readonly bic: number;
}

/** How a fit is looked for. */
export interface FitOptions {
  /** A fit of the same form to begin from, such as one of an earlier origin. */
  readonly near?: SmoothingParameters | undefined;
  readonly limits?: SearchLimits | undefined;
  /** From how many guesses the search begins, where it is not begun near another fit. */
  readonly searches?: number | undefined;
}

/**
 * A form fitted by maximum likelihood, states and rates together. `y` has NaN where nothing was observed. Returns
 * `null` where the form does not hold for the series: too few periods for its parameters, no variation, values at
 * or below zero for what multiplies.
 */
export function fitSmoothing(
  form: SmoothingForm,
  y: Float64Array,
  season: number,
  { near, limits, searches = 2 }: FitOptions = {},
): SmoothingFit | null {
  const length = form.season === "none" ? 1 : season;
  const count = parameterCount(form, length);
  let [observed, size, least] = [0, 0, Infinity];
  for (const value of y) {
    if (Number.isNaN(value)) continue;
    observed += 1;
    size += Math.abs(value);
    least = Math.min(least, value);
  }
  if (observed <= count || size === 0) return null;
  if ((form.error === "multiplicative" || form.season === "multiplicative") && least <= 0) return null;
  // Numbers around one are searched alike, whatever the series is counted in.
  const scale = size / observed;
  const scaled = y.map((value) => value / scale);
  const { map, objective } = minusTwoLogLikelihood(form, scaled, length);
  const starts = near
    ? [searchStart(map, scaledParameters(form, near, 1 / scale))]
    : searchStarts(form, map, scaled, length, objective).slice(0, searches);
  let best: { x: Float64Array; value: number } | undefined;
  for (const start of starts) {
    const found = minimise(objective, start, limits);
    if (!best || found.value < best.value) best = found;
  }
  if (!best || !Number.isFinite(best.value)) return null;
  const total = form.season === "multiplicative" ? length : 0;
  const parameters = scaledParameters(form, parametersAt(map, best.x, length, total), scale);
  const path = followSmoothing(form, parameters, y, length);
  const logLikelihood = -0.5 * (best.value + 2 * observed * Math.log(scale));
  const aic = -2 * logLikelihood + 2 * count;
  return {
    name: formName(form),
    form,
    length,
    parameters,
    ...path,
    variance: path.sum / Math.max(1, observed - (count - 1)),
    logLikelihood,
    parameterCount: count,
    observed,
    aic,
    aicc: observed > count + 1 ? aic + (2 * count * (count + 1)) / (observed - count - 1) : Infinity,
    bic: -2 * logLikelihood + count * Math.log(observed),
  };
}

/** How much of a guessed season and slope is tried, until no forecast of the form falls to nothing. */
const SHRINKING = [1, 0.3, 0.1, 0] as const;

/** The guesses that hold, the most promising first, by the likelihood they have before anything is searched. */
function searchStarts(
  form: SmoothingForm,
  map: ParameterMap,
  y: Float64Array,
  length: number,
  objective: Objective,
): Float64Array[] {
  const { level, slope, seasonal } = firstStates(form, y, length);
  const neutral = form.season === "multiplicative" ? 1 : 0;
  for (const share of SHRINKING) {
    const states = {
      level,
      slope: slope === null ? null : slope * share,
      seasonal: seasonal && seasonal.map((own) => neutral + (own - neutral) * share),
    };
    const possible = FIRST_RATES.map((rates) => searchStart(map, { ...rates, ...states }))
      .map((start) => ({ start, value: objective(start) }))
      .filter(({ value }) => Number.isFinite(value));
    if (possible.length > 0) return possible.sort((a, b) => a.value - b.value).map(({ start }) => start);
  }
  return [];
}

function scaledParameters(form: SmoothingForm, parameters: SmoothingParameters, by: number): SmoothingParameters {
  const { level, slope, seasonal } = parameters;
  return {
    ...parameters,
    level: level * by,
    slope: slope === null ? null : slope * by,
    seasonal: seasonal && (form.season === "additive" ? seasonal.map((own) => own * by) : seasonal),
  };
}

/** The states of a form after a period: of the season, the effect on that period. */
export interface SmoothingStates {
  readonly level: number;
  /** `null` where the form has none. */
  readonly slope: number | null;
  readonly effect: number | null;
}

/**
 * The states of a form along a series: what it says one step ahead, and where it stands at the end. `onStates` is told those
 * after each period.
 */
export function followSmoothing(
  form: SmoothingForm,
  { alpha, beta, gamma, phi, level: first, slope: rise, seasonal: effects }: SmoothingParameters,
  y: Float64Array,
  length: number,
  onStates?: (states: SmoothingStates) => void,
): Pick<SmoothingFit, "last" | "fitted" | "innovations"> & { readonly sum: number } {
  const seasonal = [...(effects ?? [])];
  const isMultiplied = form.season === "multiplicative";
  const damping = phi ?? 1;
  let [level, slope, sum] = [first, rise ?? 0, 0];
  const [fitted, innovations]: [number[], number[]] = [[], []];
  for (let t = 0; t < y.length; t += 1) {
    const place = t % length;
    const base = level + damping * slope;
    const effect = effects ? seasonal[place]! : isMultiplied ? 1 : 0;
    const mean = isMultiplied ? base * effect : base + effect;
    const error = y[t]! - mean;
    const isMissing = Number.isNaN(error);
    const innovation = form.error === "multiplicative" ? error / mean : error;
    fitted.push(mean);
    innovations.push(innovation);
    if (!isMissing) sum += innovation * innovation;
    const learned = isMissing ? 0 : isMultiplied ? error / effect : error;
    level = base + alpha * learned;
    slope = damping * slope + (beta ?? 0) * learned;
    if (effects && !isMissing) seasonal[place] = effect + (gamma ?? 0) * (isMultiplied ? error / base : error);
    onStates?.({ level, slope: rise === null ? null : slope, effect: effects ? seasonal[place]! : null });
  }
  return { last: { level, slope, seasonal }, fitted, innovations, sum };
}
