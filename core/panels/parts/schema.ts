import { z } from "zod";
import { figureSchema, monthSchema, varianceSchema, kpiUnitSchema } from "../../figures/schema.ts";
import { scopeSchema, scenarioCodeSchema } from "../../frame/schema.ts";
import { toleranceSchema, statusSchema } from "../../kpis/schema.ts";

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
  /** What it is compared with, as a frame names it: "budget", "prior-year", "target" … */
  basisCode: scenarioCodeSchema,
  /** Whether the basis is the KPI's own, because the frame's does not have it. */
  isFallback: z.boolean(),
  /** Actual ÷ basis, on the months of Δ. */
  attainment: figureSchema,
  /** "€ 212k (3.4%) below Budget, unfavourable" */
  words: z.string(),
  /** The band its value lies in; `null` where the KPI has no bands. */
  status: statusSchema.nullable(),
  priorYear: figureSchema.nullable(),
  /** Actual against the prior year, as a fraction of it. */
  growth: figureSchema.nullable(),
  toDate: sideBySideSchema.nullable(),
  outlook: sideBySideSchema.extend({ note: z.string() }).nullable(),
  trend: z.array(z.object({ month: monthSchema, actual: figureSchema })).readonly(),
  /** The as-of month, where it lies outside of what was expected of it and that is looked for. */
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
  /** What is left out, in a reader's words. */
  notes: coverageNotesSchema,
});

/** A member whose own figures are shown; `scope` is what of the frame's scope lies in it. */
export const shownMemberSchema = z.object({
  key: z.string(),
  name: z.string(),
  hasBelow: z.boolean(),
  scope: scopeSchema,
});

/** What a reader needs to know of a KPI to read its figures. */
export type KpiHead = z.infer<typeof kpiHeadSchema>;

/** A figure with its basis and variance. */
export type SideBySide = z.infer<typeof sideBySideSchema>;

/** A KPI with everything that a row or a tile says of it. */
export type KpiRow = z.infer<typeof kpiRowSchema>;

/** A member whose own figures are shown, with the part of the frame's scope that lies in it. */
export type ShownMember = z.infer<typeof shownMemberSchema>;
