import { z } from "zod";
import { BRIDGE_AXES, BRIDGE_ORDERS, BRIDGE_STARTS, MOST_STEPS } from "#core/panels/bridge/definition.ts";
import { judgementSchema, varianceSchema } from "../figure.ts";
import { frameSchema, scenarioCodeSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const bySchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("account") }),
  z.object({ kind: z.literal("month") }),
  z.object({ kind: z.literal("member"), dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  z.object({
    kind: z.literal("effects"),
    /** The KPI that counts what is sold. */
    quantity: z.string().max(60),
    dimension: z.string().max(100),
    level: z.string().max(100).nullable(),
  }),
]);

const definition = z.object({
  ...chartBase,
  kind: z.literal("bridge"),
  kpi: z.string().max(60),
  /** From where it leads to the actual; `to-date` leads from the actual so far to the year's end. */
  from: z.enum(BRIDGE_STARTS),
  by: bySchema,
  order: z.enum(BRIDGE_ORDERS),
  /** How many steps stand apart; the smaller ones are gathered in one. `null`: all. */
  top: z.number().int().min(1).max(MOST_STEPS).nullable(),
  /** Whether sums stand between the steps where the tree has them. */
  hasSubtotals: z.boolean(),
  /** Whether the axis begins at zero; by the size of the steps where nothing is said. */
  axis: z.enum(BRIDGE_AXES).optional(),
});

const endSchema = z.object({ name: z.string(), scenario: scenarioCodeSchema, value: z.number() });

const stepSchema = z.object({
  key: z.string(),
  name: z.string(),
  kind: z.enum(["step", "others", "new", "gone", "rest", "gap"]),
  value: z.number(),
  judgement: judgementSchema.nullable(),
  isForecast: z.boolean(),
  member: shownMemberSchema.nullable(),
  opens: z.string().nullable(),
  months: z.string().nullable(),
  count: z.number().nullable(),
  subtotal: z.string().nullable(),
});

export const bridge = panelContract({
  form: 1,
  size: { w: 12, h: 56 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    from: z.enum(BRIDGE_STARTS).optional(),
    below: z.string().max(200).optional(),
    axis: z.enum(BRIDGE_AXES).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("bridge"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    from: z.enum(BRIDGE_STARTS),
    by: z.enum(["account", "month", "member", "effects"]),
    level: z.string().nullable(),
    dimension: z.string().nullable(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    start: endSchema.nullable(),
    steps: z.array(stepSchema).readonly(),
    end: endSchema.nullable(),
    beyond: z.object({ gap: stepSchema, end: endSchema }).nullable(),
    axis: z.enum(BRIDGE_AXES).nullable(),
    variance: varianceSchema,
    refusal: z.string().nullable(),
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, by }) => ({
    kpis: by.kind === "effects" ? [kpi, by.quantity] : [kpi],
    dimensions: "dimension" in by ? [{ key: by.dimension, level: by.level }] : [],
  }),
  splitsBy: ({ by }) => (by.kind === "member" ? [by.dimension] : []),
  migrations: [],
});
