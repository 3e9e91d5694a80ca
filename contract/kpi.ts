import { z } from "zod";
import { kpiUnitSchema } from "./figure.ts";

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
  status: statusRuleSchema.nullable().default(null),
  fallbackBasis: z.string().nullable(),
});
