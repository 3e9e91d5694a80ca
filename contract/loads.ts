import { z } from "zod";
import { figureSchema, kpiUnitSchema } from "#core/figures/schema.ts";
import { findingSchema } from "./intake.ts";
/** Whether a load's facts count: all of them, those of some months, or none any more. */
export const loadStateSchema = z.enum(["in force", "partly replaced", "replaced", "undone"]);

/** A posted file. */
export const loadSchema = z.object({
  id: z.number().int(),
  fileName: z.string(),
  dataset: z.string(),
  scenario: z.string(),
  postedOn: z.string(),
  postedBy: z.string(),
  rows: z.number().int(),
  rejected: z.number().int(),
  months: z.string(),
  state: loadStateSchema,
});

export const loadListSchema = z.object({
  total: z.number().int(),
  rows: z.number().int(),
  loads: z.array(loadSchema),
  /** What was broken off, newest first: nothing of it was posted. */
  broken: z.array(
    z.object({
      id: z.number().int(),
      fileName: z.string(),
      at: z.string(),
      by: z.string(),
      message: z.string(),
      draftId: z.number().int().nullable(),
    }),
  ),
});

/** A figure that a load moved. */
export const movedFigureSchema = z.object({
  kpi: z.object({
    key: z.string(),
    name: z.string(),
    unit: kpiUnitSchema,
    decimals: z.number(),
    direction: z.enum(["higher", "lower", "closest", "neutral"]),
  }),
  scenario: z.string(),
  span: z.string(),
  before: figureSchema,
  after: figureSchema,
});

/** One load with all that is known of it. */
export const loadDetailSchema = loadSchema.extend({
  postedAt: z.string(),
  undone: z.object({ at: z.string(), by: z.string() }).nullable(),
  intake: z.string().nullable(),
  hasFile: z.boolean(),
  totals: z.array(
    z.object({
      account: z.string(),
      scenario: z.string(),
      rows: z.number().int(),
      amount: z.string(),
      unit: z.string(),
    }),
  ),
  /** What it says other currencies are worth, where it is a file of rates. */
  rates: z.array(
    z.object({
      currency: z.string(),
      month: z.string(),
      average: z.string().nullable(),
      closing: z.string().nullable(),
    }),
  ),
  findings: z.array(findingSchema),
  moved: z.array(movedFigureSchema),
  /** Whether what follows from it was worked out: the figures it moved, and the first page of a new dataset. */
  isFollowedUp: z.boolean(),
  /** Whether it has to be said what the days of its dataset are that have no line. */
  asksOfDays: z.boolean(),
  /** The review that starts from this load's dataset, where there is one. */
  review: z.object({ pack: z.string(), name: z.string() }).nullable(),
  /** Loads it set aside, and loads that set it aside. */
  replaces: z.array(z.object({ id: z.number().int(), fileName: z.string(), months: z.string() })),
  replacedBy: z.array(z.object({ id: z.number().int(), fileName: z.string(), months: z.string() })),
  /** What it brought besides facts and is still there, in words. */
  brought: z.array(z.string()),
  /** Why it cannot be undone or brought back now; `null` when it can. */
  hindrance: z.string().nullable(),
});

export const loadRemoveSchema = z.object({ withBrought: z.boolean() });
/** What stays since something else uses it, as sentences. */
export const loadRemovedSchema = z.object({ kept: z.array(z.string()) });

export const differenceQuerySchema = z.object({ to: z.coerce.number().int().min(1).max(2_000_000_000) });

/** The lines in which two loads differ; lines alike in everything but their place in the file do not count. */
export const differenceSchema = z.object({
  from: z.object({ id: z.number().int(), fileName: z.string() }),
  to: z.object({ id: z.number().int(), fileName: z.string() }),
  same: z.number().int(),
  total: z.number().int(),
  byAccount: z.array(
    z.object({ account: z.string(), unit: z.string(), from: z.string(), to: z.string(), delta: z.string() }),
  ),
  lines: z.array(
    z.object({
      side: z.enum(["gone", "new"]),
      line: z.number().int(),
      account: z.string(),
      period: z.string(),
      members: z.string(),
      reference: z.string().nullable(),
      amount: z.string(),
      unit: z.string(),
    }),
  ),
});

export type LoadList = z.infer<typeof loadListSchema>;
export type LoadHead = z.infer<typeof loadSchema>;
export type LoadDetail = z.infer<typeof loadDetailSchema>;
export type Difference = z.infer<typeof differenceSchema>;
export type MovedFigure = z.infer<typeof movedFigureSchema>;
