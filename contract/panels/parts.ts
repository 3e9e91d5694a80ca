import { z } from "zod";
import { figureSchema, kpiUnitSchema, monthSchema, statusSchema, varianceSchema } from "../figure.ts";
import { scopeSchema, scenarioCodeSchema } from "../frame.ts";
import { toleranceSchema } from "../kpi.ts";

/** What a reader needs to know of a KPI to read its figures. */
export const kpiHeadSchema = z.object({
  key: z.string(),
  name: z.string(),
  unit: kpiUnitSchema,
  decimals: z.number(),
  direction: z.enum(["higher", "lower", "closest", "neutral"]),
  tolerance: toleranceSchema,
  description: z.string(),
});

/** Coverage in a reader's words; empty when everything asked for is there. */
export const coverageNotesSchema = z.array(z.string()).readonly();

/** A figure with its basis and variance. */
const sideBySideSchema = z.object({ actual: figureSchema, basis: figureSchema, variance: varianceSchema });

/** A KPI with everything that a row or a tile says of it; see `KpiRow` in the core. */
export const kpiRowSchema = sideBySideSchema.extend({
  kpi: kpiHeadSchema,
  basisName: z.string(),
  basisCode: scenarioCodeSchema,
  isFallback: z.boolean(),
  attainment: figureSchema,
  words: z.string(),
  status: statusSchema.nullable(),
  priorYear: figureSchema.nullable(),
  growth: figureSchema.nullable(),
  toDate: sideBySideSchema.nullable(),
  outlook: sideBySideSchema.extend({ note: z.string() }).nullable(),
  trend: z.array(z.object({ month: monthSchema, actual: figureSchema })).readonly(),
  outside: z
    .object({
      month: monthSchema,
      name: z.string(),
      value: z.number(),
      expected: z.number(),
      lower: z.number(),
      upper: z.number(),
      score: z.number(),
      level: z.number(),
      reason: z.string().nullable(),
    })
    .nullable(),
  notes: coverageNotesSchema,
});

/** A member whose own figures are shown; `scope` is what of the frame's scope lies in it. */
export const shownMemberSchema = z.object({
  key: z.string(),
  name: z.string(),
  hasBelow: z.boolean(),
  scope: scopeSchema,
});

/** A line fitted through pairs by least squares. */
export const fittedLineSchema = z.object({
  slope: z.number(),
  intercept: z.number(),
  r: z.number(),
  r2: z.number(),
  n: z.number(),
});
