import { z } from "zod";

/** What the last load turned: KPIs that got worse, and better, for the year to date. */
export const alertsSchema = z.object({
  load: z.object({ id: z.number().int(), fileName: z.string(), postedAt: z.string(), postedBy: z.string() }).nullable(),
  /** "Year to date November FY27, before October FY27, against Budget" */
  words: z.string(),
  changes: z.array(
    z.object({ kpi: z.string(), name: z.string(), from: z.string(), to: z.string(), isBetter: z.boolean() }),
  ),
});

export type Alerts = z.infer<typeof alertsSchema>;
