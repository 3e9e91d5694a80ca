import { z } from "zod";
import { LEAST_LEVEL, MOST_LEVEL } from "#core/ahead/settings.ts";
import { STACKINGS } from "#core/panels/parts/stacking.ts";
import {
  CHART_SERIES,
  MOST_KPIS_OVER_TIME,
  MOST_PINS,
  MOVING_PERIODS,
  TIME_MARKS,
  TIME_STRIPS,
} from "#core/panels/time-chart/definition.ts";
import { GRAINS } from "#core/series/grain.ts";
import { MOST_PERIODS } from "#core/series/periods.ts";
import { REFERENCE_PERIODS, REFERENCE_SIDES, REFERENCE_STATISTICS } from "#core/series/reference-kinds.ts";
import { figureSchema, judgementSchema, varianceSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { aheadChoice, aheadSeriesSchema, aheadSettingsSchema } from "./ahead.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const seriesSchema = z.array(z.enum(CHART_SERIES)).max(CHART_SERIES.length).readonly();
const marksSchema = z.enum(TIME_MARKS);
const stripSchema = z.enum(TIME_STRIPS);
const stackingSchema = z.enum(STACKINGS);
const yearSchema = z.number().int().min(1900).max(2999);
const pinSchema = z.object({ period: z.string().max(20), text: z.string().min(1).max(200) });

/** A line that a chart is read against. */
const referenceSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("statistic"),
    of: z.enum(REFERENCE_STATISTICS),
    side: z.enum(REFERENCE_SIDES),
    over: z.enum(REFERENCE_PERIODS),
    year: yearSchema.optional(),
  }),
  z.object({ kind: z.literal("constant"), value: z.number(), name: z.string().min(1).max(60) }),
]);

const definition = z.object({
  ...chartBase,
  kind: z.literal("time-chart"),
  kpi: z.string().max(60),
  /** Further KPIs of its unit, beside it. */
  others: z
    .array(z.string().max(60))
    .max(MOST_KPIS_OVER_TIME - 1)
    .readonly()
    .optional(),
  /** By whose members the KPI is split. */
  split: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }).optional(),
  /** How several series stand as columns. */
  stacking: stackingSchema.optional(),
  /** A KPI of another unit, as a line with an axis of its own at the right. */
  right: z.string().max(60).optional(),
  /** What stands below on the same periods: Δ where nothing is said. */
  strip: stripSchema.optional(),
  moving: z
    .object({
      periods: z.union(MOVING_PERIODS.map((count) => z.literal(count))),
      isCentred: z.boolean(),
    })
    .optional(),
  /** Whether a straight line through the actual is drawn. */
  hasTrend: z.boolean().optional(),
  /** Notes that stand at periods. */
  pins: z.array(pinSchema).max(MOST_PINS).readonly().optional(),
  /** How it is drawn until the reader chooses otherwise; by the KPI's kind where nothing is said. */
  marks: marksSchema.optional(),
  /** How finely it is told, until the reader chooses otherwise; by month where nothing is said. */
  grain: z.enum(GRAINS).optional(),
  /** How many periods it shows. */
  last: z.number().int().min(1).max(MOST_PERIODS).optional(),
  /** What is left out besides the actual. */
  hides: seriesSchema.optional(),
  /** Whether values stand beside their marks. */
  hasLabels: z.boolean().optional(),
  references: z.array(referenceSchema).max(6).readonly().optional(),
  /** The percentage of the expected range that is drawn until the reader chooses otherwise. */
  range: z.number().min(LEAST_LEVEL).max(MOST_LEVEL).optional(),
  /** How it looks ahead until the reader chooses otherwise. */
  ahead: aheadSettingsSchema.optional(),
});

const pointsSchema = z
  .array(
    z.object({
      period: z.string(),
      name: z.string(),
      short: z.string(),
      months: z.string(),
      actual: figureSchema,
      forecast: figureSchema,
      budget: figureSchema,
      target: figureSchema,
      priorYear: figureSchema,
      basis: figureSchema,
      variance: varianceSchema,
      varianceOf: z.enum(["actual", "forecast"]),
      inSpan: z.boolean(),
    }),
  )
  .readonly();

export const timeChart = panelContract({
  form: 1,
  size: { w: 14, h: 58 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    marks: marksSchema.optional(),
    grain: z.enum(GRAINS).optional(),
    stacking: stackingSchema.optional(),
    strip: stripSchema.optional(),
    /** The fiscal year of the reference lines of a chosen year. */
    year: z.coerce.number().pipe(yearSchema).optional(),
    /** Whether the expected range is drawn. */
    range: z.enum(["on", "off"]).optional(),
    /** Whether it looks ahead, and how. */
    ahead: z.enum(["on", "off"]).optional(),
    ...aheadChoice,
    /** Whether intervals are drawn for all periods ahead, or for the one that is looked at. */
    fan: z.enum(["all", "one"]).optional(),
    notes: z.literal("open").optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["marks", "fan", "notes", "table"],
  answer: z.object({
    kind: z.literal("time-chart"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    isTitled: z.boolean(),
    descriptor: z.string(),
    basisName: z.string(),
    /** What is drawn of closed periods: the actual, or a version in its place. */
    actualName: z.string(),
    forecastName: z.string().nullable(),
    grain: z.enum(GRAINS),
    closedTo: z.string().nullable(),
    shows: seriesSchema,
    points: pointsSchema,
    parts: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          kpi: kpiHeadSchema,
          dimension: z.string().nullable(),
          member: shownMemberSchema.nullable(),
          at: z.number().nullable(),
          figures: z.array(figureSchema).readonly(),
        }),
      )
      .readonly(),
    stacking: stackingSchema,
    right: z.object({ kpi: kpiHeadSchema, figures: z.array(figureSchema).readonly() }).nullable(),
    moving: z.object({ name: z.string(), figures: z.array(figureSchema).readonly() }).nullable(),
    trend: z
      .object({
        words: z.string(),
        slope: z.number(),
        r2: z.number(),
        n: z.number(),
        from: z.object({ place: z.number(), value: z.number() }),
        to: z.object({ place: z.number(), value: z.number() }),
      })
      .nullable(),
    strip: z
      .object({
        kind: z.enum(TIME_STRIPS).exclude(["none"]),
        name: z.string(),
        isPercent: z.boolean(),
        points: z.array(z.object({ figure: figureSchema, judgement: judgementSchema.nullable() })).readonly(),
      })
      .nullable(),
    band: z
      .object({
        level: z.number(),
        model: z.string(),
        points: z
          .array(
            z
              .object({
                expected: z.number(),
                lower: z.number(),
                upper: z.number(),
                score: z.number().nullable(),
                isOutside: z.boolean(),
              })
              .nullable(),
          )
          .readonly(),
      })
      .nullable(),
    pins: z.array(pinSchema).readonly(),
    references: z.array(z.object({ name: z.string(), figure: figureSchema })).readonly(),
    notes: coverageNotesSchema,
    ahead: z
      .object({
        settings: aheadSettingsSchema,
        from: z.number(),
        series: z.array(aheadSeriesSchema).readonly(),
        sum: z.object({ points: z.array(z.number()).readonly(), words: z.string() }).nullable(),
        words: z.string(),
        offer: z
          .object({ name: z.string(), settings: aheadSettingsSchema.pick({ method: true, way: true }) })
          .nullable(),
        beyond: pointsSchema,
      })
      .nullable(),
  }),
  refersTo: ({ kpi, others = [], right, split }) => ({
    kpis: [...new Set([kpi, ...others, ...(right === undefined ? [] : [right])])],
    dimensions: split ? [{ key: split.dimension, level: split.level }] : [],
  }),
  splitsBy: ({ split }) => (split ? [split.dimension] : []),
  migrations: [],
});
