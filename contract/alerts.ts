import { z } from "zod";
import { ALERT_SPANS } from "#core/alerts/standing.ts";

/**
 * What the last load turned: KPIs that got worse, and better, in the last closed month and for the year to it; and what
 * of it is out of the ordinary.
 */
export const alertsSchema = z.object({
  load: z.object({ id: z.number().int(), fileName: z.string(), postedAt: z.string(), postedBy: z.string() }).nullable(),
  /** "November FY27 and year to date, after October FY27" */
  words: z.string(),
  changes: z.array(
    z.object({
      kpi: z.string(),
      span: z.enum(ALERT_SPANS),
      name: z.string(),
      from: z.string(),
      to: z.string(),
      isBetter: z.boolean(),
    }),
  ),
  /** What the load brought that lies outside of what was expected, the farthest first. */
  unusual: z.array(z.object({ kpi: z.string(), name: z.string(), words: z.string(), worst: z.number() })),
});

export type Alerts = z.infer<typeof alertsSchema>;
