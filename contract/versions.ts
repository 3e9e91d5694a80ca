import { z } from "zod";
import { ADJUSTMENT_KINDS } from "#core/ahead/adjust.ts";
import { monthSchema } from "#core/figures/schema.ts";
import { aheadSettingsSchema } from "#core/ahead/schema.ts";

const name = z.string().trim().min(1).max(60);

/** What a forecast is posted as: a chart's KPI, split and settings, in the chart's frame. */
export const versionPostSchema = z.object({
  name,
  kpi: z.string().max(60),
  split: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }).nullable(),
  asOf: z.string().max(40).optional(),
  scope: z.string().max(4000).optional(),
  settings: aheadSettingsSchema,
});

/** What of a version can be changed. */
export const versionChangeSchema = z
  .object({ name: name.optional(), isOpen: z.boolean().optional(), isRetired: z.boolean().optional() })
  .refine((change) => Object.values(change).some((value) => value !== undefined), "Nothing is changed.");

/** A change of a version by hand, each month by itself. */
export const adjustmentSchema = z
  .object({
    kpi: z.string().max(100),
    /** The part that is changed, as an address writes it. */
    scope: z.string().max(4000).optional(),
    from: monthSchema,
    to: monthSchema,
    kind: z.enum(ADJUSTMENT_KINDS),
    /** Percent, or an amount a month in the KPI's own unit. */
    value: z.number().min(-1e13).max(1e13),
    reason: z.string().trim().min(1).max(300),
  })
  .refine(({ from, to }) => from <= to, { path: ["to"], message: "It ends before it begins." });

/** What a copy of a version is called. */
export const versionCopySchema = z.object({ name });

export const versionSchema = z.object({
  key: z.string(),
  name: z.string(),
  kind: z.enum(["budget", "forecast", "target"]),
  madeAfter: z.object({ month: monthSchema, name: z.string() }).nullable(),
  months: z.string(),
  isOpen: z.boolean(),
  isRetired: z.boolean(),
  /** Whether outlooks and "the latest forecast" go by it. */
  isLatest: z.boolean(),
  made: z
    .object({
      by: z.string(),
      at: z.string(),
      kpi: z.object({ key: z.string(), name: z.string() }),
      /** What it was split by, and for whom, in words. */
      of: z.string(),
      settings: aheadSettingsSchema,
      series: z.number(),
      models: z.array(z.object({ name: z.string(), model: z.string() })).readonly(),
    })
    .nullable(),
  /** What it was before it was changed by hand, as a scenario to compare it with; `null` where it never was. */
  modelPart: z.string().nullable(),
  adjustments: z
    .array(
      z.object({
        id: z.number().int(),
        /** "Revenue for Northreach, November–December FY27: +5%" */
        words: z.string(),
        reason: z.string(),
        by: z.string(),
        at: z.string(),
      }),
    )
    .readonly(),
  loads: z
    .array(z.object({ id: z.number(), name: z.string(), by: z.string(), at: z.string(), rows: z.number() }))
    .readonly(),
});

export const versionListSchema = z.object({ versions: z.array(versionSchema).readonly(), mayEdit: z.boolean() });

/** A line of the answer to posting: how far it is, the version that it became, or why it did not. */
export const versionLineSchema = z.union([
  z.object({ done: z.number(), of: z.number() }),
  z.object({ version: z.string(), name: z.string(), rows: z.number() }),
  z.object({ refused: z.string() }),
]);

export type VersionList = z.infer<typeof versionListSchema>;
export type Version = z.infer<typeof versionSchema>;
export type VersionPost = z.input<typeof versionPostSchema>;
export type VersionLine = z.infer<typeof versionLineSchema>;
export type AdjustmentPost = z.input<typeof adjustmentSchema>;
