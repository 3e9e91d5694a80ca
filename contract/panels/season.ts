import { z } from "zod";
import { MOST_SEASONS, SEASON_VIEWS } from "#core/panels/season/definition.ts";
import { figureSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, fittedLineSchema, kpiHeadSchema } from "./parts.ts";

const statisticsSchema = z
  .array(z.object({ mean: z.number(), least: z.number(), most: z.number(), n: z.number() }).nullable())
  .readonly();

const definition = z.object({
  ...chartBase,
  kind: z.literal("season"),
  kpi: z.string().max(60),
  view: z.enum(SEASON_VIEWS),
  /** How many fiscal years before the one under study it is compared with. */
  years: z.number().int().min(1).max(MOST_SEASONS),
  /** Whether the year under study counts in the average and the range. */
  countsStudied: z.boolean(),
});

export const season = panelContract({
  form: 1,
  size: { w: 12, h: 50 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    view: z.enum(SEASON_VIEWS).optional(),
    year: z.string().max(20).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("season"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    view: z.enum(SEASON_VIEWS),
    monthNames: z.array(z.string()).readonly(),
    years: z
      .array(
        z.object({
          key: z.string(),
          isStudied: z.boolean(),
          values: z.array(figureSchema).readonly(),
          months: z.array(z.string()).readonly(),
        }),
      )
      .readonly(),
    choices: z.array(z.string()).readonly(),
    statistics: statisticsSchema,
    next: z.object({ name: z.string(), months: statisticsSchema }),
    line: fittedLineSchema.nullable(),
    refusal: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi] }),
  migrations: [],
});
