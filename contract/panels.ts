import { z } from "zod";
import { figureSchema, kpiUnitSchema, monthSchema, statusSchema, varianceSchema } from "./figure.ts";
import { frameSchema } from "./frame.ts";
import { scorecardColumnSchema } from "./pack.ts";

/** What a reader needs to know of a KPI to read its figures. */
export const kpiHeadSchema = z.object({
  key: z.string(),
  name: z.string(),
  unit: kpiUnitSchema,
  decimals: z.number(),
  direction: z.enum(["higher", "lower", "closest", "neutral"]),
  description: z.string(),
});

/** Coverage in a reader's words; empty when everything asked for is there. */
export const coverageNotesSchema = z.array(z.string());

/** A figure with its basis and variance. */
const sideBySideSchema = z.object({ actual: figureSchema, basis: figureSchema, variance: varianceSchema });

export const scorecardRowSchema = z.object({
  kpi: kpiHeadSchema,
  actual: figureSchema,
  basis: figureSchema,
  basisName: z.string(),
  /** Whether the basis is the KPI's own, because the frame's does not have it. */
  isFallback: z.boolean(),
  variance: varianceSchema,
  /** "€ 212k (3.4%) below Budget, unfavourable" */
  words: z.string(),
  /** The band its value lies in; `null` where the KPI has no bands. */
  status: statusSchema.nullable(),
  priorYear: figureSchema.nullable(),
  /** Actual against the prior year, as a fraction of it. */
  growth: figureSchema.nullable(),
  toDate: sideBySideSchema.nullable(),
  outlook: sideBySideSchema.extend({ sourceName: z.string().nullable() }).nullable(),
  trend: z.array(z.object({ month: monthSchema, actual: figureSchema })),
  notes: coverageNotesSchema,
});

export const scorecardSchema = z.object({
  kind: z.literal("scorecard"),
  frame: frameSchema,
  message: z.string(),
  columns: z.array(scorecardColumnSchema).readonly(),
  /** What a row opens into; `null` where there is no dimension. */
  expandBy: z.object({ key: z.string(), name: z.string(), plural: z.string() }).nullable(),
  groups: z.array(z.object({ title: z.string(), rows: z.array(scorecardRowSchema) })),
});

/** A KPI's row by the members of a dimension, below one of them or at the top. */
export const memberRowsSchema = z.object({
  frame: frameSchema,
  rows: z.array(z.object({ member: z.string(), name: z.string(), hasBelow: z.boolean(), row: scorecardRowSchema })),
});

export const seriesPointSchema = z.object({
  month: monthSchema,
  name: z.string(),
  actual: figureSchema,
  forecast: figureSchema,
  budget: figureSchema,
  target: figureSchema,
  priorYear: figureSchema,
  basis: figureSchema,
  variance: varianceSchema,
  varianceOf: z.enum(["actual", "forecast"]),
  inSpan: z.boolean(),
});

export const timeChartSchema = z.object({
  kind: z.literal("time-chart"),
  frame: frameSchema,
  kpi: kpiHeadSchema,
  headline: z.string(),
  descriptor: z.string(),
  basisName: z.string(),
  forecastName: z.string().nullable(),
  closedTo: monthSchema.nullable(),
  points: z.array(seriesPointSchema),
  notes: coverageNotesSchema,
});

export const panelAnswerSchema = z.discriminatedUnion("kind", [scorecardSchema, timeChartSchema]);

export type KpiHead = z.infer<typeof kpiHeadSchema>;
export type ScorecardAnswer = z.infer<typeof scorecardSchema>;
export type ScorecardRowAnswer = z.infer<typeof scorecardRowSchema>;
export type MemberRows = z.infer<typeof memberRowsSchema>;
export type TimeChartAnswer = z.infer<typeof timeChartSchema>;
export type SeriesPointAnswer = z.infer<typeof seriesPointSchema>;
export type PanelAnswer = z.infer<typeof panelAnswerSchema>;
