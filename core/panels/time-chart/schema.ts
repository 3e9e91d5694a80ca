import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { LEAST_LEVEL, MOST_LEVEL } from "../../ahead/settings.ts";
import { STACKINGS } from "../parts/stacking.ts";
import { GRAINS } from "../../series/grain.ts";
import { MOST_PERIODS } from "../../series/periods.ts";
import { REFERENCE_PERIODS, REFERENCE_SIDES, REFERENCE_STATISTICS } from "../../series/reference-kinds.ts";
import { figureSchema, judgementSchema, varianceSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { aheadChoice, aheadSeriesSchema, aheadSettingsSchema } from "../../ahead/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a chart over time can leave out. */
export const CHART_SERIES = ["forecast", "budget", "target", "prior-year"] as const;

export type ChartSeries = (typeof CHART_SERIES)[number];

/**
 * How it is drawn; of both, the actual stands as columns, and what it is compared with runs as lines; bars lie, with the
 * periods down the side.
 */
export const TIME_MARKS = ["columns", "lines", "both", "bars"] as const;

export type TimeMarks = (typeof TIME_MARKS)[number];

/** What the strip below says of each period. */
export const TIME_STRIPS = ["delta", "delta-percent", "growth", "growth-on-year", "none"] as const;

export type TimeStrip = (typeof TIME_STRIPS)[number];

/** Over how many periods a moving average runs. */
export const MOVING_PERIODS = [3, 6, 12] as const;

/** A chart shows at most so many KPIs, and tells so many members apart; the rest are gathered. */
export const MOST_KPIS_OVER_TIME = 6;

export const MOST_PINS = 12;

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

export const timeChartSchema = panelSchemaOf({
  name: "a chart over time",
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
    /** Whether the model notes stand beside the page. */
    notes: z.literal("open").optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["marks", "fan", "notes", "table"],
  answer: z.object({
    kind: z.literal("time-chart"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    /** Whether the headline is the panel's own title, which no draft takes the place of. */
    isTitled: z.boolean(),
    descriptor: z.string(),
    basisName: z.string(),
    /** What is drawn of closed periods: the actual, or a version in its place. */
    actualName: z.string(),
    forecastName: z.string().nullable(),
    grain: z.enum(GRAINS),
    /** The last period with an actual. */
    closedTo: z.string().nullable(),
    /** What is drawn beside the actual. */
    shows: seriesSchema,
    points: pointsSchema,
    /** Where several series are shown: each of them; the points are then those of the whole, or of the first. */
    parts: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          kpi: kpiHeadSchema,
          dimension: z.string().nullable(),
          member: shownMemberSchema.nullable(),
          /** Its place among all of its level, so that it keeps its colour from panel to panel; `null` for what is gathered. */
          at: z.number().nullable(),
          /** Period by period. */
          figures: z.array(figureSchema).readonly(),
        }),
      )
      .readonly(),
    stacking: stackingSchema,
    /** A KPI on an axis of its own. */
    right: z.object({ kpi: kpiHeadSchema, figures: z.array(figureSchema).readonly() }).nullable(),
    moving: z.object({ name: z.string(), figures: z.array(figureSchema).readonly() }).nullable(),
    trend: z
      .object({
        /** "+€ 12k a month, R² 0.83" */
        words: z.string(),
        slope: z.number(),
        r2: z.number(),
        n: z.number(),
        /** The places of the first and last period it runs over, with its height there. */
        from: z.object({ place: z.number(), value: z.number() }),
        to: z.object({ place: z.number(), value: z.number() }),
      })
      .nullable(),
    strip: z
      .object({
        kind: z.enum(TIME_STRIPS).exclude(["none"]),
        name: z.string(),
        /** Whether its figures are written as percent, or in the KPI's unit. */
        isPercent: z.boolean(),
        points: z.array(z.object({ figure: figureSchema, judgement: judgementSchema.nullable() })).readonly(),
      })
      .nullable(),
    /** What was expected of its periods, where it stands alone and that is asked for. */
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
    /** Notes at periods that are shown, in their order. */
    pins: z.array(pinSchema).readonly(),
    /** Lines the chart is read against. */
    references: z.array(z.object({ name: z.string(), figure: figureSchema })).readonly(),
    notes: coverageNotesSchema,
    /** Where it looks ahead: the forecasts that its open periods are of. */
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
  fit: ({ kpis: [kpi, ...others], split }): Fit<z.infer<typeof definition>> => {
    if (split && others.length > 0)
      return { unfit: "A chart over time can split only one KPI: remove the other KPIs or the split." };
    if (others.length >= MOST_KPIS_OVER_TIME)
      return { unfit: `A chart over time shows ${MOST_KPIS_OVER_TIME} KPIs at most: remove some.` };
    const panel = { key: ATTEMPT_KEY, kind: "time-chart", kpi: kpi! } as const;
    if (split) return { fitness: 0.66, panel: { ...panel, split, stacking: "stacked" } };
    return others.length > 0 ? { fitness: 0.7, panel: { ...panel, others } } : { fitness: 0.9, panel };
  },
  migrations: [],
});

/** One KPI over time, several of one unit, or one split by members; `kpi` is shown until the reader chooses another. */
export type TimeChartDefinition = z.infer<(typeof timeChartSchema)["definition"]>;

/** What a reader can choose of a chart over time, as an address has it. */
export type TimeChartChoice = z.infer<(typeof timeChartSchema)["choice"]>;

/** The mean of a few periods in a row: the last ones, or those around each. */
export type MovingAverage = NonNullable<TimeChartDefinition["moving"]>;

/** A note that stands at a period, by its key: "2026-09". */
export type PinnedNote = NonNullable<TimeChartDefinition["pins"]>[number];

/** One KPI over time in a frame. */
export type TimeChartAnswer = z.infer<(typeof timeChartSchema)["answer"]>;

/** A period of the chart, named. */
export type SeriesPointAnswer = TimeChartAnswer["points"][number];

/** One of several series of a chart: a KPI, or a member's part of one; the actual, and the forecast where it is open. */
export type ChartPart = TimeChartAnswer["parts"][number];

/** A line over the actual, period by period. */
export type OverlayLine = NonNullable<TimeChartAnswer["moving"]>;

/** A straight line through the actual. */
export type TrendLine = NonNullable<TimeChartAnswer["trend"]>;

/** What stands below on the same periods. */
export type StripAnswer = NonNullable<TimeChartAnswer["strip"]>;
