import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema } from "../parts/schema.ts";
import { fittedLineSchema } from "../../statistics/schema.ts";

/** How a year is seen against others. */
export const SEASON_VIEWS = ["overlay", "band", "small", "against", "next"] as const;

export type SeasonView = (typeof SEASON_VIEWS)[number];

/** At most so many years stand beside the one under study. */
export const MOST_SEASONS = 12;

const statisticsSchema = z
  .array(
    z
      .object({ mean: z.number(), least: z.number(), most: z.number() /** How many years have it. */, n: z.number() })
      .nullable(),
  )
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

export const seasonSchema = panelSchemaOf({
  name: "a season",
  form: 1,
  size: { w: 12, h: 50 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    view: z.enum(SEASON_VIEWS).optional(),
    /** The fiscal year under study, as it is named. */
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
    /** The months of the fiscal year, in their order. */
    monthNames: z.array(z.string()).readonly(),
    /** Oldest first, the one under study last. */
    years: z
      .array(
        z.object({
          key: z.string(),
          isStudied: z.boolean(),
          /** From the first month of the fiscal year on. */
          values: z.array(figureSchema).readonly(),
          months: z.array(z.string()).readonly(),
        }),
      )
      .readonly(),
    /** The years that can be studied. */
    choices: z.array(z.string()).readonly(),
    /** Over the other years, or over all of them where the one under study counts. */
    statistics: statisticsSchema,
    /** What the year after the one under study would be if it were as those before. */
    next: z.object({ name: z.string(), months: statisticsSchema }),
    /** The year under study on the average of the others. */
    line: fittedLineSchema.nullable(),
    refusal: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi] }),
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (split) return { unfit: "A season cannot be split: remove the split." };
    if (kpis.length > 1) return { unfit: "A season shows one KPI: choose one of them." };
    return {
      fitness: 0.52,
      panel: { key: ATTEMPT_KEY, kind: "season", kpi: kpis[0]!, view: "band", years: 3, countsStudied: false },
    };
  },
  migrations: [],
});

/** Whether a month is a normal one: a KPI by month of the year, over fiscal years. */
export type SeasonDefinition = z.infer<(typeof seasonSchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type SeasonChoice = z.infer<(typeof seasonSchema)["choice"]>;

/** A KPI by month of the year. */
export type SeasonAnswer = z.infer<(typeof seasonSchema)["answer"]>;

/** A fiscal year, month by month. */
export type SeasonYear = SeasonAnswer["years"][number];

/** A month of the year over several years. */
export type MonthStatistics = NonNullable<SeasonAnswer["statistics"][number]>;
