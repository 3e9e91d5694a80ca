import { accuracyOf } from "./accuracy.ts";
import type { ForecastOptions, JudgedMethod } from "./forecast.ts";
import { combine, combineJudgements, weightsOf, type JudgedPeriod } from "./judge.ts";
import { fitMethod, type MethodFit } from "./methods.ts";
import { repeatsItself } from "./season-found.ts";
import { type Method } from "./method-names.ts";
import type { Fitted } from "./projection.ts";

/** A method that counts for this much alone is not worth combining. */
const ALONE = 0.9;
/** What counts for less than this is left out. */
const NEGLIGIBLE = 0.02;

type Judgement = readonly JudgedPeriod[][];

/** The methods that hold for a series, fitted: those asked for, or those worth comparing. */
export function fitCandidates(y: Float64Array, season: number, { method, form }: ForecastOptions): MethodFit[] {
  const one = method ?? (form ? "smoothing" : undefined);
  const isConstant = y.every((value) => Number.isNaN(value) || value === y.find((own) => !Number.isNaN(own)));
  const base = season > 1 ? "seasonal-naive" : "naive";
  const wanted: readonly Method[] =
    one !== undefined
      ? [one, base]
      : isConstant
        ? ["mean"]
        : [
            "smoothing",
            "arima",
            "waves",
            "theta",
            "carried-season",
            "grown-season",
            base,
            ...(y.length < 10 ? (["mean"] as const) : []),
          ];
  const fits = [...new Set(wanted)].flatMap((own) => fitMethod(own, y, season, form) ?? []);
  return one !== undefined && fits[0]?.method !== one ? [] : fits;
}

/**
 * Naive forecasts are what others are measured by, and the grown season is for series that are too short to judge: they
 * count for nothing beside one that can be judged.
 */
function isYardstick({ method }: MethodFit): boolean {
  return method === "seasonal-naive" || method === "naive" || method === "grown-season";
}

/**
 * What counts where nothing can be judged, alike: of a series that repeats its season what keeps to it, since nothing
 * learns a season from less than two; of any other the level, with the season before as far as it goes.
 */
function safeMethods(y: Float64Array, season: number, candidates: readonly MethodFit[]): readonly Method[] {
  const has = (method: Method) => candidates.some((own) => own.method === method);
  if (season < 2 || y.length < season) return ["smoothing", "theta"];
  if (!repeatsItself(y, season)) return ["smoothing", "theta", "seasonal-naive"];
  if (!has("grown-season")) return ["seasonal-naive"];
  return y.length < 2 * season ? ["grown-season"] : ["grown-season", "carried-season", "theta"];
}

/** What is forecast with, and why. */
export interface Choice {
  readonly fit: Fitted;
  readonly method: Method | "combination";
  /** The method that counts most. */
  readonly main: MethodFit;
  readonly weights: readonly number[];
  readonly judgement: Judgement;
  readonly why: string;
}

/** The method that was asked for, the one that was nearest from earlier origins, or their combination. */
export function chooseAmong(
  { y, season }: { readonly y: Float64Array; readonly season: number },
  candidates: readonly MethodFit[],
  judgements: readonly JudgedPeriod[][][],
  { method, form }: ForecastOptions,
): Choice {
  const isJudged = judgements.some((own) => own.some((origin) => origin.length > 0));
  const alone = (at: number, why: string): Choice => ({
    fit: candidates[at]!,
    method: candidates[at]!.method,
    main: candidates[at]!,
    weights: candidates.map((_, i) => (i === at ? 1 : 0)),
    judgement: judgements[at]!,
    why,
  });
  if (method !== undefined || form) return alone(0, `${candidates[0]!.name} was asked for.`);
  if (candidates.length === 1) return alone(0, `${candidates[0]!.name} is the only method that fits this series.`);
  const safe = isJudged ? [] : safeMethods(y, season, candidates);
  const weights = trimmed(
    isJudged
      ? towardsModels(
          weightsOf(judgements).map((weight, i) => (isYardstick(candidates[i]!) ? 0 : weight)),
          candidates,
        )
      : candidates.map(({ method: own }) => (safe.includes(own) ? 1 : 0)),
  );
  const most = weights.indexOf(Math.max(...weights));
  if (weights[most]! >= ALONE)
    return alone(
      most,
      isJudged
        ? `${candidates[most]!.name} was clearly the most accurate in backtests.`
        : `${candidates[most]!.name} is the method used for so short a series.`,
    );
  const used = weights.flatMap((weight, i) => (weight > 0 ? [i] : []));
  const names = used.map((i) => `${candidates[i]!.name} (${Math.round(weights[i]! * 100)}%)`);
  return {
    fit: combine(
      used.map((i) => candidates[i]!),
      used.map((i) => weights[i]!),
      `Combination of ${used.map((i) => candidates[i]!.name).join(", ")}`,
    ),
    method: "combination",
    main: candidates[most]!,
    weights,
    judgement: isJudged ? combineJudgements(judgements, weights) : judgements[most]!,
    why: isJudged
      ? `No method was clearly the most accurate in backtests: ${names.join(", ")} are combined, weighted by accuracy.`
      : `The series is too short to compare methods: ${names.join(", ")} are combined with equal weights.`,
  };
}

/** Half of the weight is shared alike by exponential smoothing and ARIMA, where both hold for a series. */
const BELIEF = 0.5;
/** A model that earlier origins give less than this part of the best one's weight is believed no more than they say. */
const LEAST_BELIEVED = 0.05;

/**
 * Weights found from a few earlier origins are themselves not known for sure: they are drawn towards those of the two
 * families that are nearest on most series. Where one of these does not hold, a series is too short to be drawn.
 */
function towardsModels(weights: readonly number[], candidates: readonly MethodFit[]): readonly number[] {
  const best = Math.max(...weights);
  const models = candidates.flatMap(({ method }, i) => (method === "smoothing" || method === "arima" ? [i] : []));
  const believed = models.filter((i) => weights[i]! >= LEAST_BELIEVED * best);
  if (models.length < 2 || believed.length === 0) return weights;
  const sum = weights.reduce((all, own) => all + own, 0);
  return weights.map((own, i) => ((1 - BELIEF) * own) / sum + (believed.includes(i) ? BELIEF / believed.length : 0));
}

/** Weights that add up to one, without those that hardly count. */
function trimmed(weights: readonly number[]): number[] {
  const all = weights.reduce((sum, own) => sum + own, 0);
  const kept = weights.map((own) => (all > 0 && own / all >= NEGLIGIBLE ? own / all : 0));
  const sum = kept.reduce((total, own) => total + own, 0);
  return sum > 0 ? kept.map((own) => own / sum) : weights.map((_, i) => (i === 0 ? 1 : 0));
}

/** What the forecast and each candidate were worth from earlier origins, the forecast first. */
export function judgedRows(
  choice: Choice,
  candidates: readonly MethodFit[],
  judgements: readonly Judgement[],
  scale: number,
): JudgedMethod[] {
  const rowOf = (name: string, judgement: Judgement, weight: number): JudgedMethod => {
    const periods = judgement.flat();
    const seen = periods.map((period) => period.seen);
    return {
      name,
      weight,
      ...accuracyOf(
        seen,
        periods.map(({ said }) => said),
        scale,
      ),
    };
  };
  const rows = candidates.map((fit, i) => rowOf(fit.name, judgements[i]!, choice.weights[i]!));
  const own = candidates.findIndex(({ name }) => name === choice.fit.name);
  return own >= 0
    ? [rows[own]!, ...rows.filter((_, i) => i !== own)]
    : [rowOf(choice.fit.name, choice.judgement, 1), ...rows];
}
