import { chooseAmong, fitCandidates, type Choice } from "./choice.ts";
import { shareOf, type ForecastInput, type ForecastOptions } from "./forecast.ts";
import { judgeMethods, rollingOrigins, varianceFactor, type JudgedPeriod } from "./judge.ts";
import type { MethodFit } from "./methods.ts";
import { studentQuantile } from "./numerics/distributions.ts";
import { prepare, type Prepared } from "./prepare.ts";
import { shapeOf, type Shape } from "./shape.ts";

/** A series with the methods fitted to it, judged from earlier origins, and what was chosen among them. */
export interface FittedSeries {
  readonly prepared: Prepared;
  readonly shape: Shape;
  readonly candidates: readonly MethodFit[];
  /** How many periods were known at each origin, the latest first. */
  readonly origins: readonly number[];
  /** How far ahead was judged. */
  readonly judgedTo: number;
  readonly judgements: readonly JudgedPeriod[][][];
  readonly choice: Choice;
  /** By what the variances are multiplied. */
  readonly factor: number;
}

/** Fits the methods that hold for a series, judges them, and chooses; or says why none can be fitted. */
export function fitSeries(
  input: ForecastInput,
  options: ForecastOptions,
): FittedSeries | { readonly notFitted: string } {
  const prepared = prepare(input, options);
  if ("notFitted" in prepared) return prepared;
  const { y, season } = prepared;
  const shape = shapeOf(prepared, input, options);
  const shaped = y.map((value, t) => shape.into(value, t));
  const candidates = fitCandidates(shaped, season, options);
  if (candidates.length === 0)
    return {
      notFitted: options.form
        ? "The form of exponential smoothing does not hold for this series: it is too short for it, or not all values are above zero."
        : "No method can be fitted to this series.",
    };
  const judgedTo = Math.min(options.horizon, season > 1 && season <= 24 ? Math.max(season, 6) : 28);
  const origins = rollingOrigins(y.length, season, judgedTo);
  const judgements = judgeMethods(shaped, candidates, origins, judgedTo);
  const choice = chooseAmong({ y: shaped, season }, candidates, judgements, options);
  const factor = varianceFactor(choice.judgement);
  return { prepared, shape, candidates, origins, judgedTo, judgements, choice, factor };
}

/** Errors of forecasts have heavier tails than those of a model that is known: as many degrees of freedom. */
const FREEDOM = 5;

/** How many standard deviations an interval of a level reaches to either side. */
export function widthOf(level: number): number {
  return studentQuantile(0.5 + shareOf(level) / 2, FREEDOM);
}

/** Whether the interval of a level would have held what was seen, of a period that was judged. */
export function isHeld({ error, variance }: JudgedPeriod, level: number, factor: number): boolean {
  return Math.abs(error) <= widthOf(level) * Math.sqrt(variance * factor);
}
