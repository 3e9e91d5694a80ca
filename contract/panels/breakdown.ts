import { z } from "zod";
import { BREAKDOWN_PARTS } from "#core/panels/breakdown/definition.ts";
import { MOST_MEMBERS, REPEAT_ORDERS } from "#core/panels/parts/repetition.ts";
import { STACKINGS } from "#core/panels/parts/stacking.ts";
import { figureSchema } from "../figure.ts";
import { frameSchema, scenarioCodeSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "./parts.ts";

const named = z.object({ key: z.string(), name: z.string() });
const orderSchema = z.enum(REPEAT_ORDERS);
const stackingSchema = z.enum(STACKINGS);
const bySchema = z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() });

const definition = z.object({
  ...chartBase,
  kind: z.literal("breakdown"),
  kpis: z.array(z.string().max(60)).min(1).max(MOST_MEMBERS).readonly(),
  by: bySchema,
  cluster: z
    .discriminatedUnion("kind", [
      bySchema.extend({ kind: z.literal("dimension") }),
      z.object({ kind: z.literal("scenarios") }),
      z.object({ kind: z.literal("kpis") }),
    ])
    .nullable(),
  stacking: stackingSchema,
  order: orderSchema,
  /** Whether the order is turned round: the lowest, the worst, the last first. */
  isReversed: z.boolean(),
  /** How many members stand apart; the others are gathered in one. `null`: all. */
  top: z.number().int().min(1).max(MOST_MEMBERS).nullable(),
  hides: z.array(z.enum(BREAKDOWN_PARTS)).max(BREAKDOWN_PARTS.length).readonly().optional(),
});

const rowSchema = z.object({
  member: shownMemberSchema.nullable(),
  name: z.string(),
  row: kpiRowSchema,
  parts: z.array(figureSchema).readonly(),
});

export const breakdown = panelContract({
  form: 1,
  size: { w: 12, h: 50 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    order: orderSchema.optional(),
    reversed: z.enum(["yes", "no"]).optional(),
    top: z.union([z.literal("all"), z.coerce.number().int().min(1).max(MOST_MEMBERS)]).optional(),
    below: z.string().max(200).optional(),
    stacking: stackingSchema.optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("breakdown"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    layers: z.array(named).readonly(),
    by: z.object({ dimension: z.string(), level: z.string(), path: z.array(named).readonly() }),
    order: orderSchema,
    isReversed: z.boolean(),
    top: z.number().nullable(),
    shows: z.array(z.enum(BREAKDOWN_PARTS)).readonly(),
    series: z
      .array(
        named.extend({
          scenario: scenarioCodeSchema.optional(),
          dimension: z.string().optional(),
          members: z.array(z.string()).readonly().optional(),
          at: z.number().nullable(),
        }),
      )
      .readonly(),
    stacking: stackingSchema,
    rows: z.array(rowSchema).readonly(),
    others: rowSchema.extend({ count: z.number() }).nullable(),
    total: rowSchema,
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpis, by, cluster }) => ({
    kpis,
    dimensions: [by, ...(cluster?.kind === "dimension" ? [cluster] : [])].map(({ dimension, level }) => ({
      key: dimension,
      level,
    })),
  }),
  splitsBy: ({ by, cluster }) => [by.dimension, ...(cluster?.kind === "dimension" ? [cluster.dimension] : [])],
  migrations: [],
});
