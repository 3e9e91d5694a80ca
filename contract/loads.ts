import { z } from "zod";

/** A posted file. */
export const loadSchema = z.object({
  id: z.number().int(),
  fileName: z.string(),
  dataset: z.string(),
  scenario: z.string(),
  postedOn: z.string(),
  postedBy: z.string(),
  rows: z.number().int(),
  months: z.string(),
});

export const loadListSchema = z.object({ total: z.number().int(), rows: z.number().int(), loads: z.array(loadSchema) });

export type LoadList = z.infer<typeof loadListSchema>;
