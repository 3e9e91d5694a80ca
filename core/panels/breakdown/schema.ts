import { ATTEMPT_KEY, ARRANGED, type Fit } from "../attempt.ts";
import { z } from "zod";
import { MOST_MEMBERS, REPEAT_ORDERS } from "../parts/repetition.ts";
import { STACKINGS } from "../parts/stacking.ts";
import { figureSchema } from "../../figures/schema.ts";
import { frameSchema, scenarioCodeSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a breakdown can leave out. */
export const BREAKDOWN_PARTS = ["basis", "delta", "delta-percent", "total"] as const;

export type BreakdownPart = (typeof BREAKDOWN_PARTS)[number];

/** At most so many parts are told apart by colour; the rest are gathered. */
export const MOST_PARTS = 8;

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
  /** `null` where it is of several members together. */
  member: shownMemberSchema.nullable(),
  name: z.string(),
  row: kpiRowSchema,
  parts: z.array(figureSchema).readonly(),
});

export const breakdownSchema = panelSchemaOf({
  name: "a breakdown",
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
    /** The KPIs that can be shown. */
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
    /** The KPI of all members together: measured, not summed, so that it holds for rates too. */
    total: rowSchema,
    /** Members of the level without a figure, with the reason. */
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    /** What the reader must know: what is left out, what is kept without a member, what would mislead. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (!split) return { unfit: "A breakdown needs members: choose a dimension to split by." };
    return {
      fitness: kpis.length === 1 ? 0.95 : 0.8,
      panel: {
        key: ATTEMPT_KEY,
        kind: "breakdown",
        kpis,
        by: split,
        cluster: null,
        stacking: "clustered",
        ...ARRANGED,
      },
    };
  },
  migrations: [],
});

/** Who makes a KPI, and who is off plan: its members' bars. The first KPI is shown until the reader chooses another. */
export type BreakdownDefinition = z.infer<(typeof breakdownSchema)["definition"]>;

/** What a reader can choose of a breakdown, as an address has it. */
export type BreakdownChoice = z.infer<(typeof breakdownSchema)["choice"]>;

/** What else each member's bar is taken apart by: a second dimension, the scenarios, or several KPIs of one unit. */
export type ClusterBy = NonNullable<BreakdownDefinition["cluster"]>;

/** A KPI by the members of a level in a frame. */
export type BreakdownAnswer = z.infer<(typeof breakdownSchema)["answer"]>;

/** A member's bar: its figures, and the parts it is taken apart into, in the order of the answer's series. */
export type BreakdownRow = BreakdownAnswer["rows"][number];

/** What a bar is taken apart by: a member, a scenario, or a KPI. */
export type BreakdownSeries = BreakdownAnswer["series"][number];
