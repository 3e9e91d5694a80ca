import { correlogram, type Correlogram } from "./diagnostics.ts";
import { fitSeries, isHeld, type FittedSeries } from "./fit-series.ts";
import { LEVELS, type ForecastInput, type ForecastOptions } from "./forecast.ts";
import { followSmoothing } from "./smoothing/fit.ts";

/** What a data scientist looks at before reading the notes of a forecast; periods are counted from the first of the series. */
export interface DrawnForecast {
  /** What was seen less what the model said one step ahead; `null` where nothing could be said. */
  readonly residuals: readonly (number | null)[];
  readonly correlogram: Correlogram | null;
  /** The states of exponential smoothing after each period; `null` where no form holds. */
  readonly components: {
    readonly form: string;
    /** Whether effects of the season multiply the level. */
    readonly isMultiplied: boolean;
    readonly level: readonly (number | null)[];
    /** `null` where the form has none. */
    readonly slope: readonly (number | null)[] | null;
    readonly season: readonly (number | null)[] | null;
  } | null;
  /** What would have been said from each earlier origin, the earliest first, beside what came. */
  readonly origins: readonly {
    /** The first period that was not known. */
    readonly from: number;
    readonly said: readonly (number | null)[];
    readonly seen: readonly (number | null)[];
  }[];
  /** Of each number of periods ahead, the share of what came that the intervals would have held, and of how many. */
  readonly coverage: readonly {
    readonly level: number;
    readonly held: readonly number[];
    readonly of: readonly number[];
  }[];
}

/**
 * A forecast to be looked at: the residuals, their autocorrelation, the components, and what earlier origins would have
 * said, of the same fits as `forecastSeries`. `null` where nothing can be fitted.
 */
export function drawForecast(input: ForecastInput, options: ForecastOptions): DrawnForecast | null {
  const own = fitSeries(input, options);
  if ("notFitted" in own) return null;
  const { prepared, shape, origins, choice, factor, judgedTo } = own;
  const { y, season, cut } = prepared;
  const placed = (values: readonly (number | null)[]) => [...new Array<null>(cut).fill(null), ...values];
  const residuals = choice.fit.fitted.map((value, t) => y[t]! - shape.back(value, t));
  const path = choice.judgement
    .map((periods, i) => ({ from: origins[i]!, periods }))
    .filter(({ periods }) => periods.length > 0)
    .sort((a, b) => a.from - b.from);
  return {
    residuals: placed(residuals.map(orNull)),
    correlogram: correlogram(residuals, season),
    components: componentsOf(own),
    origins: path.map(({ from, periods }) => {
      const steps = Array.from({ length: Math.max(...periods.map(({ ahead }) => ahead)) }, (_, i) =>
        periods.find(({ ahead }) => ahead === i + 1),
      );
      const back = (value: number, i: number) => orNull(shape.back(value, from + i));
      return {
        from: from + cut,
        said: steps.map((step, i) => (step ? back(step.said, i) : null)),
        seen: steps.map((step, i) => (step ? back(step.seen, i) : null)),
      };
    }),
    coverage: (options.levels ?? LEVELS).map((level) => {
      const ahead = Array.from({ length: path.length > 0 ? judgedTo : 0 }, (_, i) =>
        path.flatMap(({ periods }) => periods.filter((period) => period.ahead === i + 1)),
      );
      return {
        level,
        held: ahead.map((periods) => periods.filter((period) => isHeld(period, level, factor)).length),
        of: ahead.map((periods) => periods.length),
      };
    }),
  };
}

/** The states of the form that counts most, over the series as it was modelled. */
function componentsOf({ choice, candidates, prepared, shape }: FittedSeries): DrawnForecast["components"] {
  const fit = choice.main.smoothing ?? candidates.find(({ method }) => method === "smoothing")?.smoothing;
  if (!fit) return null;
  const [level, slope, season]: [number[], number[], number[]] = [[], [], []];
  const shaped = prepared.y.map((value, t) => shape.into(value, t));
  followSmoothing(fit.form, fit.parameters, shaped, fit.length, (states) => {
    level.push(states.level);
    if (states.slope !== null) slope.push(states.slope);
    if (states.effect !== null) season.push(states.effect);
  });
  const before = new Array<null>(prepared.cut).fill(null);
  const placed = (values: readonly number[]) => (values.length === 0 ? null : [...before, ...values]);
  return {
    form: fit.name,
    isMultiplied: fit.form.season === "multiplicative",
    level: [...before, ...level],
    slope: placed(slope),
    season: placed(season),
  };
}

function orNull(value: number): number | null {
  return Number.isFinite(value) ? value : null;
}
