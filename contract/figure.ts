import { z } from "zod";
import { parseMonth } from "#core/calendar/month.ts";

/** A month on the wire: "2026-10". */
export const monthSchema = z
  .string()
  .refine((text) => parseMonth(text) !== undefined, { message: "a month is written as 2026-10" });

/** A figure: a value, or an absence with its reason. */
export const figureSchema = z.union([
  z.object({ value: z.number() }),
  z.object({
    absent: z.enum(["no data", "no base", "not covered", "division by zero", "not closed yet", "no access"]),
    detail: z.string(),
  }),
]);

/** Whether a variance points the KPI's way. */
export const judgementSchema = z.enum(["favourable", "unfavourable", "on plan", "neutral"]);

/** Δ with its percentage and judgement. */
export const varianceSchema = z.object({
  delta: figureSchema,
  deltaPercent: figureSchema,
  judgement: judgementSchema.nullable(),
  /** Whole tolerances of the KPI that Δ spans, signed as Δ. */
  tolerances: z.number().int().nullable(),
});

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

/** A KPI's unit. */
export const kpiUnitSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("money"), decimals: z.number().int().min(0).max(4).optional() }),
  z.object({ kind: z.literal("money-per"), per: z.string() }),
  z.object({ kind: z.literal("count"), of: z.string() }),
  z.object({ kind: z.literal("percent") }),
  z.object({ kind: z.literal("days") }),
  z.object({ kind: z.literal("ratio"), of: z.string() }),
]);

export type WireFigure = z.infer<typeof figureSchema>;
export type WireVariance = z.infer<typeof varianceSchema>;
