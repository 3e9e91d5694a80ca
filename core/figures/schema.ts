import { z } from "zod";
import { parseMonth } from "../calendar/month.ts";

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
  /** In the KPI's unit; for percent KPIs a fraction, shown in points. */
  delta: figureSchema,
  /** Δ / |basis| as a fraction. */
  deltaPercent: figureSchema,
  /** `null` when there is no Δ to judge. */
  judgement: judgementSchema.nullable(),
  /** Whole tolerances of the KPI that Δ spans, signed as Δ. */
  tolerances: z.number().int().nullable(),
});

/** Why a figure is not there. Never shown as 0, never as NaN. */
export type AbsenceReason = Absence["absent"];

/** A figure that is not there, with a sentence for the reader. */
export type Absence = Extract<Figure, { absent: unknown }>;

/** A value in the unit its context names, or an absence with its reason. */
export type Figure = z.infer<typeof figureSchema>;

/** How a variance is judged by the KPI's direction. */
export type Judgement = z.infer<typeof judgementSchema>;

/** A variance Δ = actual − basis, always in that order. */
export type Variance = z.infer<typeof varianceSchema>;

/** A KPI's unit. */
export const kpiUnitSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("money"), decimals: z.number().int().min(0).max(4).optional() }),
  z.object({ kind: z.literal("money-per"), per: z.string() }),
  z.object({ kind: z.literal("count"), of: z.string() }),
  z.object({ kind: z.literal("percent") }),
  z.object({ kind: z.literal("days") }),
  z.object({ kind: z.literal("ratio"), of: z.string() }),
]);

/** How a KPI's value is shown and compared. Percent values are fractions: 0.25 is 25 %. */
export type KpiUnit = z.infer<typeof kpiUnitSchema>;
