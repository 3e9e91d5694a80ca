import { z } from "zod";
import { CHART_SERIES } from "#core/panels/time-chart/definition.ts";
import { GRAINS } from "#core/series/grain.ts";
import { MOST_PERIODS } from "#core/series/periods.ts";
import { REFERENCE_PERIODS, REFERENCE_SIDES, REFERENCE_STATISTICS } from "#core/series/reference-kinds.ts";
import { figureSchema, varianceSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema } from "./parts.ts";

const seriesSchema = z.array(z.enum(CHART_SERIES)).max(CHART_SERIES.length).readonly();
const marksSchema = z.enum(["columns", "lines"]);

/** A line that a chart is read against. */
const referenceSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("statistic"),
    of: z.enum(REFERENCE_STATISTICS),
    side: z.enum(REFERENCE_SIDES),
    over: z.enum(REFERENCE_PERIODS),
  }),
  z.object({ kind: z.literal("constant"), value: z.number(), name: z.string().min(1).max(60) }),
]);

const definition = z.object({
  ...panelBase,
  kind: z.literal("time-chart"),
  kpi: z.string().max(60),
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
  /** Decimals of the values, whatever the KPI's are. */
  decimals: z.number().int().min(0).max(4).optional(),
  references: z.array(referenceSchema).max(6).readonly().optional(),
});

export const timeChart = panelContract({
  form: 1,
  size: { w: 14, h: 58 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    marks: marksSchema.optional(),
    grain: z.enum(GRAINS).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["marks", "table"],
  answer: z.object({
    kind: z.literal("time-chart"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    basisName: z.string(),
    forecastName: z.string().nullable(),
    grain: z.enum(GRAINS),
    closedTo: z.string().nullable(),
    shows: seriesSchema,
    points: z
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
      .readonly(),
    references: z.array(z.object({ name: z.string(), figure: figureSchema })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi] }),
  migrations: [],
});
