import { z } from "zod";
import { monthSchema } from "#core/figures/schema.ts";
import { frameSchema } from "#core/frame/schema.ts";

/** What the frame sentence can be made of, for this reader. */
export const frameChoicesSchema = z.object({
  frame: frameSchema,
  lastClosed: monthSchema,
  asOfChoices: z.array(
    z.object({
      month: monthSchema,
      name: z.string(),
      fiscalYear: z.string(),
      isClosed: z.boolean(),
      note: z.string().nullable(),
    }),
  ),
  spans: z.array(z.object({ key: z.string(), name: z.string(), months: z.string() })),
  bases: z.array(z.object({ key: z.string(), name: z.string(), note: z.string() })),
  /** Where the months can come from that are not closed. */
  outlooks: z.array(z.object({ key: z.string(), name: z.string(), note: z.string() })),
  /** What can be looked at: the actual, or a version in its place. */
  shown: z.array(z.object({ key: z.string(), name: z.string(), note: z.string() })),
  dimensions: z.array(
    z.object({
      key: z.string(),
      name: z.string(),
      plural: z.string(),
      /** From the top down. */
      levels: z.array(z.string()),
      members: z.array(z.object({ key: z.string(), name: z.string(), parent: z.string().nullable() })),
    }),
  ),
  /** The KPI library, in its own order. */
  kpis: z.array(z.object({ key: z.string(), name: z.string(), description: z.string(), owner: z.string() })),
  /** Where figures come from, and how far they are closed. */
  foot: z.string(),
  /** What all figures of this reader are confined to, in words; `null` when nothing is kept from them. */
  confinedTo: z.string().nullable(),
});

export type FrameChoices = z.infer<typeof frameChoicesSchema>;
