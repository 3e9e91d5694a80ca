import { z } from "zod";
import { figureSchema, monthSchema } from "#core/figures/schema.ts";
import { frameQuerySchema, frameSchema } from "#core/frame/schema.ts";
import { FIGURE_SIDES } from "#core/provenance/explain-figure.ts";
import { coverageNotesSchema, kpiHeadSchema } from "#core/panels/parts/schema.ts";

/** Which side of a comparison is asked about. */
export const sideSchema = z.enum(FIGURE_SIDES);

/** One input of a formula, aggregated over span and scope before the formula is applied. */
export const provenanceInputSchema = z.object({
  index: z.number().int(),
  account: z.string(),
  accountName: z.string(),
  gathering: z.enum(["sum", "closing", "average", "clock", "nested"]),
  figure: figureSchema,
  unit: z.string(),
  decimals: z.number().int(),
  datasets: z.array(z.string()).readonly(),
  leaves: z.number().int(),
  /** What it reads; side and scope only where they are not those of the whole figure. */
  reads: z.object({ side: z.string().nullable(), months: z.string(), scope: z.string().nullable() }),
});

/** How a figure was made. */
export const provenanceSchema = z.object({
  frame: frameSchema,
  kpi: kpiHeadSchema,
  owner: z.string(),
  side: sideSchema,
  sideName: z.string(),
  figure: figureSchema,
  formula: z.string(),
  inputs: z.array(provenanceInputSchema).readonly(),
  /** The months that went in, in words and one by one. */
  monthsName: z.string(),
  months: z.array(monthSchema).readonly(),
  asked: z.number().int(),
  notes: coverageNotesSchema,
});

/** One source line as it was posted. */
export const sourceLineSchema = z.object({
  load: z.string(),
  postedOn: z.string(),
  line: z.number().int(),
  period: z.string(),
  account: z.string(),
  members: z.array(z.string()),
  reference: z.string().nullable(),
  amount: z.number(),
  /** What it was before it was converted, an exact decimal with its currency. */
  original: z.object({ amount: z.string(), currency: z.string() }).nullable(),
});

/** A page of source lines, largest amounts first, with what all of them add up to. */
export const sourceLinesSchema = z.object({
  total: z.number().int(),
  sum: z.number(),
  decimals: z.number().int(),
  unit: z.string(),
  offset: z.number().int(),
  lines: z.array(sourceLineSchema),
});

export type ProvenanceSide = z.infer<typeof sideSchema>;
export type ProvenanceAnswer = z.infer<typeof provenanceSchema>;
export type SourceLinesAnswer = z.infer<typeof sourceLinesSchema>;

/** Which figure's making is asked for. */
export const provenanceQuerySchema = frameQuerySchema.extend({ kpi: z.string().max(100), side: sideSchema });

/** Which of the lines behind it. */
export const sourceLinesQuerySchema = provenanceQuerySchema.extend({
  input: z.coerce.number().int().min(0).max(1000).default(0),
  offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(50),
});
