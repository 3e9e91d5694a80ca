import { z } from "zod";
import { figureSchema, kpiUnitSchema } from "../figures/schema.ts";
/** A status by bands, or why there is none. `place` runs from 0, the worst end, to 1, the best. */
export const statusSchema = z.union([
  z.object({
    grade: z.enum(["good", "fair", "poor"]),
    word: z.string(),
    place: z.number(),
    shownAs: z.enum(["bands", "gradient"]),
  }),
  figureSchema.options[1],
]);

const gradeSchema = z.enum(["good", "fair", "poor"]);

/** How a KPI's values are graded. */
export const statusRuleSchema = z.object({
  against: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("value") }),
    z.object({ kind: z.literal("basis") }),
    z.object({ kind: z.literal("target") }),
    z.object({ kind: z.literal("kpi"), kpi: z.string() }),
  ]),
  shownAs: z.enum(["bands", "gradient"]),
  bands: z
    .array(
      z.object({
        from: z.number().nullable(),
        to: z.number().nullable(),
        grade: gradeSchema,
        word: z.string().trim().min(1).max(40),
      }),
    )
    .max(12)
    .readonly(),
});

/** Inside of which a variance counts as on plan. */
export const toleranceSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("percent"), percent: z.number().min(0) }),
  z.object({ kind: z.literal("points"), points: z.number().min(0) }),
  z.object({ kind: z.literal("amount"), amount: z.number().min(0) }),
]);

/** A KPI as the library stores it. */
export const kpiDefinitionSchema = z.object({
  key: z
    .string()
    .max(60)
    .regex(/^[a-z][a-z0-9_]*$/, { message: "a key is made of small letters, digits and _" }),
  name: z.string().trim().min(1).max(120),
  formula: z.string().min(1),
  unit: kpiUnitSchema,
  decimals: z.number().int().min(0).max(6),
  direction: z.enum(["higher", "lower", "closest", "neutral"]),
  tolerance: toleranceSchema,
  owner: z.string(),
  description: z.string(),
  /** How its values are graded; `null` where the variance says it. */
  status: statusRuleSchema.nullable().default(null),
  /** The scenario to compare with where the frame's basis does not have this KPI at all. */
  fallbackBasis: z.string().nullable(),
});
/** Which way is good. `closest`: the nearer to the basis the better. */
export type Direction = KpiDefinition["direction"];

/** A variance inside the tolerance counts as on plan. An amount is in the KPI's own unit, whatever the span. */
export type Tolerance = z.infer<typeof toleranceSchema>;

/** A KPI as the library keeps it. */
export type KpiDefinition = z.infer<typeof kpiDefinitionSchema>;

/** How good a status is; colour and shape follow from it, the word is the KPI's own. */
export type Grade = z.infer<typeof gradeSchema>;

/** What a value is held against: its own number, or percent of the target, the basis, or another KPI at the same frame. */
export type StatusReference = StatusRule["against"];

/** A half-open interval [from, to); `null` is without end. In the KPI's unit, or in percent of the reference. */
export type Band = StatusRule["bands"][number];

/** A KPI's status by bands; as a gradient the colour runs between them. */
export type StatusRule = z.infer<typeof statusRuleSchema>;
