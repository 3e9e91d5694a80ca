import { accuracyOf, naiveError } from "./accuracy.ts";
import { judgedRows } from "./choice.ts";
import { checkResiduals } from "./diagnostics.ts";
import { fitSeries, isHeld, widthOf } from "./fit-series.ts";
import {
  LEVELS,
  type ForecastInput,
  type ForecastNotes,
  type ForecastOptions,
  type SeriesForecast,
} from "./forecast.ts";
import { type JudgedPeriod } from "./judge.ts";
import type { MethodFit } from "./methods.ts";

/**
 * Forecasts a series: finds the methods that hold for it, judges them from earlier origins, and takes the best or
 * their combination, with intervals as wide as their errors were. Deterministic: the same series and options give
 * the same numbers everywhere. Never throws and never returns a number that is none: what cannot be forecast says why.
 */
export function forecastSeries(input: ForecastInput, options: ForecastOptions): SeriesForecast {
  const own = fitSeries(input, options);
  if ("notFitted" in own) return own;
  const { prepared, shape, candidates, origins, judgedTo, judgements, choice, factor } = own;
  const { y, season, leftOut, warnings } = prepared;
  const projections = choice.fit.project(options.horizon);
  const bounds = boundsOf(y, options);
  const n = y.length;
  const inside = (value: number) => Math.min(bounds.most, Math.max(bounds.least, value));
  const points = projections.map(({ mean }, i) => inside(shape.back(mean, n + i)));
  const levels = options.levels ?? LEVELS;
  const intervals = levels.map((level) => {
    const z = widthOf(level);
    const bound = (sign: number) =>
      projections.map(({ mean, variance }, i) =>
        inside(shape.back(mean + sign * z * Math.sqrt(Math.max(0, variance * factor)), n + i)),
      );
    return { level, lower: bound(-1), upper: bound(1) };
  });
  if (![...points, ...intervals.flatMap(({ lower, upper }) => [...lower, ...upper])].every(Number.isFinite))
    return { notFitted: "The forecast diverges for this series. Try a shorter horizon." };
  const fitted = choice.fit.fitted.map((value, t) => shape.back(value, t));
  const residuals = fitted.map((value, t) => y[t]! - value);
  const scale = naiveError(y, season) || naiveError(y, 1);
  // The forms that were compared are told even where another method counts for more.
  const smooth = choice.main.smoothing ? choice.main : candidates.find(({ smoothing }) => smoothing !== null);
  const rows = judgedRows(choice, candidates, judgements, scale);
  const [first] = rows;
  const naive = rows.find(({ name }) => name === "Seasonal naive" || (season === 1 && name === "Naive"));
  const beatsSeasonalNaive =
    first && naive && !Number.isNaN(first.mae) ? first.mae < naive.mae || first === naive : null;
  return {
    model: { name: choice.fit.name, method: choice.method },
    points,
    intervals,
    fitted: fitted.map(orNull),
    residuals: residuals.map(orNull),
    notes: {
      why: choice.why,
      parameters: choice.fit.parameters,
      statistics: statisticsOf(smooth),
      tried: smooth?.tried ?? [],
      inSample: accuracyOf(y, fitted, scale),
      backtest:
        origins.length === 0
          ? null
          : {
              origins: origins.length,
              horizon: judgedTo,
              rows,
              coverage: levels.map((level) => ({ level, share: coverageOf(choice.judgement, level, factor) })),
            },
      beatsSeasonalNaive,
      residuals: checkResiduals(
        residuals,
        season,
        choice.main.smoothing ? choice.main.smoothing.parameterCount - 1 : 0,
      ),
      n: y.reduce((count, value) => (Number.isNaN(value) ? count : count + 1), 0),
      leftOut,
      effects: shape.effects,
      warnings: [
        ...warnings,
        ...(origins.length === 0 && options.method === undefined && !options.form && season > 1
          ? [
              `${n} periods are too few to compare methods: the safest one for short series is used, and its intervals are the model's own.`,
            ]
          : []),
        ...(beatsSeasonalNaive === false
          ? [
              "In backtests it was no more accurate than the same period of the season before: the seasonal naive forecast is as good.",
            ]
          : []),
      ],
    },
  };
}

function coverageOf(judgement: readonly (readonly JudgedPeriod[])[], level: number, factor: number): number {
  const periods = judgement.flat();
  const held = periods.filter((period) => isHeld(period, level, factor));
  return periods.length === 0 ? NaN : held.length / periods.length;
}

function boundsOf(y: Float64Array, { bounds }: ForecastOptions): { least: number; most: number } {
  const isNegative = y.some((value) => value < 0);
  return { least: bounds?.least ?? (isNegative ? -Infinity : 0), most: bounds?.most ?? Infinity };
}

function statisticsOf(fit: MethodFit | undefined): ForecastNotes["statistics"] {
  if (!fit?.smoothing) return null;
  const { logLikelihood, aic, aicc, bic, parameterCount } = fit.smoothing;
  return { logLikelihood, aic, aicc, bic, parameterCount };
}

function orNull(value: number): number | null {
  return Number.isFinite(value) ? value : null;
}
