import { z } from "zod";
import {
  FORECAST_WAYS,
  HORIZONS,
  LEAST_LEVEL,
  MOST_LEVEL,
  MOST_MARKED,
  MOST_SEASON,
  MOST_WITHOUT,
} from "./settings.ts";
import { METHODS } from "../forecast/method-names.ts";
import type { MadeOf } from "./kpi-history.ts";
import { GRAINS, type Grain } from "../series/grain.ts";

/** What of a forecast a reader can choose, as an address has it. */
export const aheadChoice = {
  horizon: z.coerce
    .number()
    .int()
    .min(1)
    .max(Math.max(...GRAINS.map((grain) => HORIZONS[grain].most)))
    .optional(),
  without: z.coerce.number().int().min(0).max(MOST_WITHOUT).optional(),
  level: z.coerce.number().min(LEAST_LEVEL).max(MOST_LEVEL).optional(),
  season: z.coerce.number().int().min(1).max(MOST_SEASON).optional(),
  method: z.enum(METHODS).optional(),
  way: z.enum(FORECAST_WAYS).optional(),
};

const markedSchema = z.array(z.string().max(20)).max(MOST_MARKED).readonly();

/** How a KPI is forecast; what is not said is found out. */
export const aheadSettingsSchema = z.object({
  /** How many periods ahead. */
  horizon: z.number().int().min(1).max(400).optional(),
  /** How many of the last periods are left out, so that the forecast can be seen beside what came. */
  without: z.number().int().min(0).max(MOST_WITHOUT).optional(),
  /** The level of the interval in percent; 80 and 95 where nothing is said. */
  level: z.number().min(LEAST_LEVEL).max(MOST_LEVEL).optional(),
  /** How many periods make a season, 1 for none. */
  season: z.number().int().min(1).max(MOST_SEASON).optional(),
  method: z.enum(METHODS).optional(),
  way: z.enum(FORECAST_WAYS).optional(),
  log: z.boolean().optional(),
  /** Periods by their keys that are no part of the pattern. */
  leaveOut: markedSchema.optional(),
  /** Periods by their keys from which on the level is another one. */
  steps: markedSchema.optional(),
});

/** A number, or `null` where it is none. */
const numberSchema = z.number().nullable();
const numbersSchema = z.array(numberSchema).readonly();
const accuracySchema = z.object({
  mae: numberSchema,
  rmse: numberSchema,
  smape: numberSchema,
  mase: numberSchema,
  n: numberSchema,
});
const coverageSchema = z.array(z.object({ level: numberSchema, share: numberSchema })).readonly();
const intervalsSchema = z
  .array(z.object({ level: numberSchema, lower: numbersSchema, upper: numbersSchema }))
  .readonly();

const notesSchema = z.object({
  why: z.string(),
  parameters: z.record(z.string(), numberSchema),
  statistics: z
    .object({
      logLikelihood: numberSchema,
      aic: numberSchema,
      aicc: numberSchema,
      bic: numberSchema,
      parameterCount: numberSchema,
    })
    .nullable(),
  tried: z.array(z.object({ name: z.string(), aicc: numberSchema })).readonly(),
  inSample: accuracySchema,
  backtest: z
    .object({
      origins: numberSchema,
      horizon: numberSchema,
      rows: z.array(accuracySchema.extend({ name: z.string(), weight: numberSchema })).readonly(),
      coverage: coverageSchema,
    })
    .nullable(),
  beatsSeasonalNaive: z.boolean().nullable(),
  residuals: z.object({
    n: numberSchema,
    mean: numberSchema,
    deviation: numberSchema,
    ljungBox: z.object({ statistic: numberSchema, lags: numberSchema, p: numberSchema }).nullable(),
  }),
  n: numberSchema,
  leftOut: numbersSchema,
  effects: z.array(z.object({ name: z.string(), coefficient: numberSchema, t: numberSchema })).readonly(),
  warnings: z.array(z.string()).readonly(),
});

const madeForecastSchema = z.object({
  model: z.object({ name: z.string(), method: z.enum([...METHODS, "combination"]) }),
  points: numbersSchema,
  intervals: intervalsSchema,
  fitted: numbersSchema,
  residuals: numbersSchema,
  notes: notesSchema,
});

/** A KPI's forecast with what it was made of, or why there is none. */
export const kpiForecastSchema = z.union([
  z.object({
    model: z.string(),
    points: numbersSchema,
    intervals: intervalsSchema,
    fitted: numbersSchema,
    made: z.array(z.object({ name: z.string(), forecast: madeForecastSchema })).readonly(),
    isByInputs: z.boolean(),
  }),
  z.object({ notFitted: z.string() }),
]);

/** What a KPI is forecast from; its formula as it was compiled, so that a browser computes the same. */
const historySchema = z.object({
  grain: z.enum(GRAINS),
  values: numbersSchema,
  first: z.object({ month: z.number(), day: z.number().nullable() }),
  keys: z.array(z.string()).readonly(),
  known: z.object({ confirmed: z.array(z.number()).readonly(), dismissed: z.array(z.number()).readonly() }),
  isFlow: z.boolean(),
  isShare: z.boolean(),
  made: z
    .object({
      formula: z.custom<MadeOf["formula"]>((value) => typeof value === "object" && value !== null),
      inputs: z
        .array(z.object({ name: z.string(), values: numbersSchema, known: z.array(z.number()).readonly().nullable() }))
        .readonly(),
    })
    .nullable(),
});

/** A series looked ahead. */
export const aheadSeriesSchema = z.object({
  key: z.string(),
  name: z.string(),
  history: historySchema,
  forecast: kpiForecastSchema,
  judged: z
    .object({
      origins: numberSchema,
      horizon: numberSchema,
      rows: z.array(accuracySchema.extend({ name: z.string() })).readonly(),
      coverage: coverageSchema,
    })
    .nullable(),
});

/** How a KPI is forecast; what is not said is found out. */
export type AheadSettings = z.infer<typeof aheadSettingsSchema>;

/** The levels of the intervals of a setting. */
export function levelsOf({ level }: AheadSettings): readonly number[] {
  return level === undefined ? [80, 95] : [level];
}

/** How far ahead a setting looks, within what a grain allows. */
export function horizonOf({ horizon }: AheadSettings, grain: Grain): number {
  const { usual, most } = HORIZONS[grain];
  return Math.max(1, Math.min(most, horizon ?? usual));
}
