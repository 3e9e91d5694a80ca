import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { judgementSchema, varianceSchema } from "../../figures/schema.ts";
import { frameSchema, scenarioCodeSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";

/** From where a bridge leads to the actual; `to-date` leads from the actual so far to the year's end. */
export const BRIDGE_STARTS = ["basis", "prior-period", "prior-year", "to-date"] as const;

export type BridgeStart = (typeof BRIDGE_STARTS)[number];

/** In which order steps stand: as the tree has them, or the largest effect first. */
export const BRIDGE_ORDERS = ["tree", "effect"] as const;

export type BridgeOrder = (typeof BRIDGE_ORDERS)[number];

/** At most so many steps stand apart. */
export const MOST_STEPS = 40;

export const BRIDGE_AXES = ["whole", "short"] as const;

export type BridgeAxis = (typeof BRIDGE_AXES)[number];

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

const endSchema = z.object({
  name: z.string() /** As a frame names it: "actual", "budget", "prior-year" … */,
  /** In whose code it is drawn. */
  scenario: scenarioCodeSchema,
  value: z.number(),
});

const stepSchema = z.object({
  key: z.string(),
  name: z.string(),
  /**
   * A `step` by itself; `others` the smaller ones together; `new` and `gone` what one side does not have; `rest` what is
   * kept without a member; `gap` what is missing to a plan.
   */
  kind: z.enum(["step", "others", "new", "gone", "rest", "gap"]),
  /** What it brings, in the KPI's own unit; signed by its effect on the KPI. */
  value: z.number(),
  judgement: judgementSchema.nullable(),
  /** Whether it is expected and not yet there. */
  isForecast: z.boolean(),
  /** The member it stands for; `null` where it is none. */
  member: shownMemberSchema.nullable(),
  /** What it opens into: the account or the member below which its own parts lie. */
  opens: z.string().nullable(),
  /** The months it is of, as an address writes them, where it is of months. */
  months: z.string().nullable(),
  /** How many it gathers, where it does. */
  count: z.number().nullable(),
  /** The sum that stands behind it, where the tree has one there. */
  subtotal: z.string().nullable(),
});

export const bridgeSchema = panelSchemaOf({
  name: "a bridge",
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
    /** What members are called here; `null` where the steps are no members. */
    level: z.string().nullable(),
    /** The dimension of the members; `null` where the steps are no members. */
    dimension: z.string().nullable(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    /** `null` where there is no bridge; `refusal` says why. */
    start: endSchema.nullable(),
    steps: z.array(stepSchema).readonly(),
    end: endSchema.nullable(),
    /** Past the year's end: what is missing to the plan, and the plan. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length > 1) return { unfit: "A bridge explains one KPI: choose one." };
    return {
      fitness: split ? 0.75 : 0.6,
      panel: {
        key: ATTEMPT_KEY,
        kind: "bridge",
        kpi: kpis[0]!,
        from: "basis",
        by: split ? { kind: "member", ...split } : { kind: "account" },
        order: "tree",
        top: 12,
        hasSubtotals: true,
      },
    };
  },
  migrations: [],
});

/** What takes a KPI from one figure to another. */
export type BridgeDefinition = z.infer<(typeof bridgeSchema)["definition"]>;

/** What a reader can choose of a bridge, as an address has it. */
export type BridgeChoice = z.infer<(typeof bridgeSchema)["choice"]>;

/** What its steps are: accounts, members, months, or the effects of volume, mix and price. */
export type BridgeBy = BridgeDefinition["by"];

/** What takes a KPI from one figure to another: start + all steps = end, to the last digit that is kept. */
export type BridgeAnswer = z.infer<(typeof bridgeSchema)["answer"]>;

/** A figure that a bridge stands on. */
export type BridgeEnd = NonNullable<BridgeAnswer["start"]>;

/** What takes a bridge a part of its way. */
export type BridgeStep = BridgeAnswer["steps"][number];
