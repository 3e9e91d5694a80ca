import { z } from "zod";
import { kpiUnitSchema } from "./figure.ts";

/** A KPI as the library stores it. */
export const kpiDefinitionSchema = z.object({
  key: z.string().regex(/^[a-z][a-z0-9_]*$/),
  name: z.string().min(1),
  formula: z.string().min(1),
  unit: kpiUnitSchema,
  decimals: z.number().int().min(0).max(6),
  direction: z.enum(["higher", "lower", "closest", "neutral"]),
  tolerance: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("percent"), percent: z.number().min(0) }),
    z.object({ kind: z.literal("points"), points: z.number().min(0) }),
    z.object({ kind: z.literal("amount"), amount: z.number().min(0) }),
  ]),
  owner: z.string(),
  description: z.string(),
  fallbackBasis: z.string().nullable(),
});
