import { z } from "zod";
import { GROWTH_GRAINS, GROWTH_ON, MOST_RANGES, rangesProblem } from "#core/panels/growth/definition.ts";
import { MOST_PERIODS } from "#core/series/periods.ts";
import { figureSchema, judgementSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const rangesSchema = z
  .array(
    z.object({
      /** As a fraction; the last one has no end. */
      below: z.number().nullable(),
      name: z.string().min(1).max(60),
      /** A place among the dyer's colours. */
      dye: z.number().int().min(0).max(7),
    }),
  )
  .min(1)
  .max(MOST_RANGES)
  .superRefine((ranges, context) => {
    const problem = rangesProblem(ranges);
    if (problem) context.addIssue({ code: "custom", message: problem });
  })
  .readonly();

const definition = z.object({
  ...chartBase,
  kind: z.literal("growth"),
  kpi: z.string().max(60),
  on: z.enum(GROWTH_ON),
  by: z.discriminatedUnion("kind", [
    z.object({
      kind: z.literal("time"),
      grain: z.enum(GROWTH_GRAINS),
      /** How many periods it shows; as many as are usual where `null`. */
      last: z.number().int().min(1).max(MOST_PERIODS).nullable(),
    }),
    z.object({ kind: z.literal("member"), dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  ]),
  /** Colours by ranges of one's own; by judgement where there are none. */
  ranges: rangesSchema.nullable(),
  hasLabels: z.boolean().optional(),
});

export const growth = panelContract({
  form: 1,
  size: { w: 12, h: 44 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    on: z.enum(GROWTH_ON).optional(),
    grain: z.enum(GROWTH_GRAINS).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("growth"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    on: z.enum(GROWTH_ON),
    noun: z.string(),
    dimension: z.string().nullable(),
    ranges: rangesSchema.nullable(),
    points: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          short: z.string(),
          member: shownMemberSchema.nullable(),
          months: z.string().nullable(),
          now: figureSchema,
          before: figureSchema,
          growth: figureSchema,
          judgement: judgementSchema.nullable(),
          range: z.number().nullable(),
        }),
      )
      .readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, by }) => ({
    kpis: [kpi],
    dimensions: by.kind === "member" ? [{ key: by.dimension, level: by.level }] : [],
  }),
  splitsBy: ({ by }) => (by.kind === "member" ? [by.dimension] : []),
  migrations: [],
});
