import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { MOST_PERIODS } from "../../series/periods.ts";
import { figureSchema, judgementSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";

/** On what growth is taken. */
export const GROWTH_ON = ["prior-period", "prior-year"] as const;

export type GrowthOn = (typeof GROWTH_ON)[number];

export const GROWTH_GRAINS = ["month", "quarter", "year"] as const;

export const MOST_RANGES = 6;

/** What is wrong with ranges, in a sentence; `null` where they follow each other up to no end. */
export function rangesProblem(ranges: readonly GrowthRange[]): string | null {
  for (const [i, { below, name }] of ranges.entries()) {
    const isLast = i === ranges.length - 1;
    if (isLast !== (below === null))
      return isLast
        ? `"${name}" is the last range: leave its end open.`
        : `"${name}" needs an end: another follows it.`;
    const before = ranges[i - 1]?.below;
    if (below !== null && before !== undefined && before !== null && below <= before)
      return `"${name}" ends at ${below}, where the range before it ends already: let each end later than the one before.`;
  }
  return null;
}

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

export const growthSchema = panelSchemaOf({
  name: "growth",
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
    /** "month", "quarter", "year", or what members are called here. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length > 1) return { unfit: "Growth shows one KPI: choose one of them." };
    return {
      fitness: 0.55,
      panel: {
        key: ATTEMPT_KEY,
        kind: "growth",
        kpi: kpis[0]!,
        on: "prior-year",
        by: split ? { kind: "member", ...split } : { kind: "time", grain: "month", last: null },
        ranges: null,
      },
    };
  },
  migrations: [],
});

/** Whether a KPI's growth quickens or slows. */
export type GrowthDefinition = z.infer<(typeof growthSchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type GrowthChoice = z.infer<(typeof growthSchema)["choice"]>;

/** Whether growth is shown over time, or by members over the frame's span. */
export type GrowthBy = GrowthDefinition["by"];

/** A range of growth with a colour of its own, up to and without `below`; the last one has no end. */
export type GrowthRange = NonNullable<GrowthDefinition["ranges"]>[number];

/** A KPI's growth over time, or by members. */
export type GrowthAnswer = z.infer<(typeof growthSchema)["answer"]>;

/** A period or a member with how it grew. */
export type GrowthPoint = GrowthAnswer["points"][number];
