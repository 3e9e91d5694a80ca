import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { LEAST_LEVEL, MOST_LEVEL, RANGE_GRAINS } from "../../ahead/settings.ts";
import { frameSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema } from "../parts/schema.ts";
import { EVENT_VERDICTS } from "#core/ahead/known-events.ts";
import type { RangeGrain } from "../../ahead/settings.ts";

/** How many periods are judged where nothing is said, and at the most. */
export const RANGE_PERIODS: Readonly<Record<RangeGrain, { readonly usual: number; readonly most: number }>> = {
  day: { usual: 61, most: 400 },
  week: { usual: 26, most: 104 },
  month: { usual: 18, most: 48 },
};

/** A dimension is judged member by member where it has at most so many. */
export const MOST_JUDGED = 24;

const MOST = Math.max(...RANGE_GRAINS.map((grain) => RANGE_PERIODS[grain].most));
const lastSchema = z.number().int().min(6).max(MOST);
const levelSchema = z.number().min(LEAST_LEVEL).max(MOST_LEVEL);

/** What was said of an event. */
export const eventSaidSchema = z.object({
  id: z.number().int(),
  verdict: z.enum(EVENT_VERDICTS),
  reason: z.string(),
  by: z.string(),
  saidAt: z.string(),
  isForAll: z.boolean(),
});

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

export const expectedRangeSchema = panelSchemaOf({
  name: "an expected range",
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
          /** These three are `null` while the range is still being calculated. */
          expected: z.number().nullable(),
          lower: z.number().nullable(),
          upper: z.number().nullable(),
          /** How many standard errors it was off; `null` where nothing was seen. */
          score: z.number().nullable(),
          isOutside: z.boolean(),
        }),
      )
      .readonly(),
    events: z
      .array(
        z.object({
          /** The periods it is of, by their keys. */
          from: z.string(),
          to: z.string(),
          side: z.enum(["below", "above"]),
          kind: z.enum(["outlier", "run", "shift"]),
          worst: z.number(),
          deviation: z.number(),
          members: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
          isOfWhole: z.boolean(),
          words: z.string(),
          /** Its first and last day. */
          days: z.object({ from: z.string(), to: z.string() }),
          /** What an analyst said of it; `null` where nobody did. */
          said: eventSaidSchema.nullable(),
        }),
      )
      .readonly(),
    /** Why there is no range; `null` where there is. */
    notFitted: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, split }) => ({
    kpis: [kpi],
    dimensions: split ? [{ key: split.dimension, level: split.level }] : [],
  }),
  splitsBy: ({ split }) => (split ? [split.dimension] : []),
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length > 1) return { unfit: "An expected range shows one KPI: choose one of them." };
    return {
      fitness: 0.4,
      panel: { key: ATTEMPT_KEY, kind: "expected-range", kpi: kpis[0]!, grain: "month", ...(split ? { split } : {}) },
    };
  },
  migrations: [],
});

/** A KPI's actual in the range that history led one to expect, with what lies outside named and dated. */
export type ExpectedRangeDefinition = z.infer<(typeof expectedRangeSchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type ExpectedRangeChoice = z.infer<(typeof expectedRangeSchema)["choice"]>;

/** A KPI in its expected range. */
export type ExpectedRangeAnswer = z.infer<(typeof expectedRangeSchema)["answer"]>;

/** A period beside what was expected of it. */
export type RangePointAnswer = ExpectedRangeAnswer["points"][number];

/** An event named and dated. */
export type RangeEventAnswer = ExpectedRangeAnswer["events"][number];

/** What was said of an event. */
export type EventSaid = NonNullable<ExpectedRangeAnswer["events"][number]["said"]>;
