import { z } from "zod";

export const feedModeSchema = z.enum(["normal", "corrected", "slow", "cut", "schema"]);
export const scheduleSchema = z.enum(["never", "minutely", "hourly", "daily"]);

/** A source that is pulled, and its log. */
export const feedSchema = z.object({
  key: z.string(),
  name: z.string(),
  url: z.string(),
  dataset: z.string(),
  schedule: scheduleSchema,
  mode: feedModeSchema,
  /** What the next pull asks for, in words. */
  next: z.string(),
  pulls: z.array(
    z.object({
      id: z.number().int(),
      startedAt: z.string(),
      seconds: z.number().nullable(),
      startedBy: z.string(),
      state: z.enum(["running", "posted", "waiting", "nothing", "failed"]),
      message: z.string(),
      draftId: z.number().int().nullable(),
      loadId: z.number().int().nullable(),
    }),
  ),
});

export const feedListSchema = z.array(feedSchema);
export const feedChangeSchema = z.object({ schedule: scheduleSchema.optional(), mode: feedModeSchema.optional() });

export type Feed = z.infer<typeof feedSchema>;
export type FeedMode = z.infer<typeof feedModeSchema>;
export type Schedule = z.infer<typeof scheduleSchema>;
