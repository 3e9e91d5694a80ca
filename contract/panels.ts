import { z } from "zod";
import { figureSchema, kpiUnitSchema, monthSchema, statusSchema, varianceSchema } from "./figure.ts";
import { frameSchema, scopeSchema } from "./frame.ts";
import { TILE_FIGURES } from "#core/compare/tile-figures.ts";
import { scorecardColumnSchema, tileOrderSchema } from "./pack.ts";

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
  /** What it is compared with, as a frame names it: "budget", "prior-year", "target" … */
  basisKey: z.string(),
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

/** A member whose own figures are shown; `scope` is what of the frame's scope lies in it. */
const shownMemberSchema = z.object({
  key: z.string(),
  name: z.string(),
  hasBelow: z.boolean(),
  scope: scopeSchema,
});

/** A KPI's row by the members of a dimension, below one of them or at the top. */
export const memberRowsSchema = z.object({
  frame: frameSchema,
  rows: z.array(z.object({ member: shownMemberSchema, row: scorecardRowSchema })),
});

export const tileSchema = z.object({
  /** `null` where the tile is of the whole scope. */
  member: shownMemberSchema.nullable(),
  row: scorecardRowSchema,
  /** Actual ÷ basis. */
  attainment: figureSchema,
  /** In the order of the answer's `figures`. */
  figures: z.array(z.object({ figure: figureSchema, variance: varianceSchema, note: z.string() })),
});

export const tilesSchema = z.object({
  kind: z.literal("tiles"),
  frame: frameSchema,
  message: z.string(),
  /** What the small figures are of, and whether each is the past that the actual is held against. */
  figures: z.array(z.object({ kind: z.enum(TILE_FIGURES), name: z.string(), isPast: z.boolean() })),
  /** What can be shown of each member; empty where tiles are not repeated. */
  layers: z.array(z.object({ key: z.string(), name: z.string() })),
  repeatedBy: z
    .object({
      dimension: z.string(),
      /** "route", "sea area": what a member is called here. */
      level: z.string(),
      /** The members the reader went down through, from the top. */
      path: z.array(z.object({ key: z.string(), name: z.string() })),
    })
    .nullable(),
  order: tileOrderSchema,
  isReversed: z.boolean(),
  top: z.number().nullable(),
  tiles: z.array(tileSchema),
  /** The members that do not stand apart, in one. */
  others: z.object({ count: z.number(), tile: tileSchema }).nullable(),
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
  /** Lines the chart is read against. */
  references: z.array(z.object({ name: z.string(), figure: figureSchema })),
  notes: coverageNotesSchema,
});

export const panelAnswerSchema = z.discriminatedUnion("kind", [scorecardSchema, timeChartSchema, tilesSchema]);

export type KpiHead = z.infer<typeof kpiHeadSchema>;
export type ScorecardAnswer = z.infer<typeof scorecardSchema>;
export type ScorecardRowAnswer = z.infer<typeof scorecardRowSchema>;
export type TilesAnswer = z.infer<typeof tilesSchema>;
export type TileAnswer = z.infer<typeof tileSchema>;
export type MemberRows = z.infer<typeof memberRowsSchema>;
export type TimeChartAnswer = z.infer<typeof timeChartSchema>;
export type SeriesPointAnswer = z.infer<typeof seriesPointSchema>;
export type PanelAnswer = z.infer<typeof panelAnswerSchema>;
