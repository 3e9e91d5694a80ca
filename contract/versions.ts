import { z } from "zod";
import { monthSchema } from "./figure.ts";
import { aheadSettingsSchema } from "./panels/ahead.ts";

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
