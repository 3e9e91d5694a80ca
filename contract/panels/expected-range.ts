import { z } from "zod";
import { LEAST_LEVEL, MOST_LEVEL, RANGE_GRAINS } from "#core/ahead/settings.ts";
import { RANGE_PERIODS } from "#core/panels/expected-range/definition.ts";
import { eventSaidSchema } from "../events.ts";
import { frameSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema } from "./parts.ts";

const MOST = Math.max(...RANGE_GRAINS.map((grain) => RANGE_PERIODS[grain].most));
const lastSchema = z.number().int().min(6).max(MOST);
const levelSchema = z.number().min(LEAST_LEVEL).max(MOST_LEVEL);

const definition = z.object({
  ...chartBase,
  kind: z.literal("expected-range"),
  kpi: z.string().max(60),
  grain: z.enum(RANGE_GRAINS),
  /** How many of the last periods are judged. */
  last: lastSchema.optional(),
  /** The probability of the range in percent. */
  level: levelSchema.optional(),
  /** Whose members are judged by themselves. */
  split: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }).optional(),
});

export const expectedRange = panelContract({
  form: 1,
  size: { w: 14, h: 54 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    grain: z.enum(RANGE_GRAINS).optional(),
    last: z.coerce.number().pipe(lastSchema).optional(),
    level: z.coerce.number().pipe(levelSchema).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("expected-range"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    grain: z.enum(RANGE_GRAINS),
    level: z.number(),
    model: z.string().nullable(),
    dimension: z.string().nullable(),
    points: z
      .array(
        z.object({
          period: z.string(),
          name: z.string(),
          short: z.string(),
          months: z.string(),
          value: z.number().nullable(),
          expected: z.number().nullable(),
          lower: z.number().nullable(),
          upper: z.number().nullable(),
          score: z.number().nullable(),
          isOutside: z.boolean(),
        }),
      )
      .readonly(),
    events: z
      .array(
        z.object({
          from: z.string(),
          to: z.string(),
          side: z.enum(["below", "above"]),
          kind: z.enum(["outlier", "run", "shift"]),
          worst: z.number(),
          deviation: z.number(),
          members: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
          isOfWhole: z.boolean(),
          words: z.string(),
          days: z.object({ from: z.string(), to: z.string() }),
          said: eventSaidSchema.nullable(),
        }),
      )
      .readonly(),
    notFitted: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, split }) => ({
    kpis: [kpi],
    dimensions: split ? [{ key: split.dimension, level: split.level }] : [],
  }),
  splitsBy: ({ split }) => (split ? [split.dimension] : []),
  migrations: [],
});
