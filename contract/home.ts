import { z } from "zod";
import { monthSchema } from "#core/figures/schema.ts";
import { pagePlaceSchema } from "./kpis.ts";
import { kpiRowSchema } from "#core/panels/parts/schema.ts";

/** What matters before anything is opened: the month that is open, and what is off plan in the last closed one. */
export const homeSchema = z.object({
  /** Nothing is closed before the first month is loaded. */
  openMonth: z
    .object({
      month: monthSchema,
      name: z.string(),
      datasets: z
        .array(
          z.object({
            key: z.string(),
            name: z.string(),
            has: z.enum(["all", "part", "nothing"]),
            words: z.string(),
            closes: z.boolean(),
          }),
        )
        .readonly(),
    })
    .nullable(),
  /** How far a company of one's own has come; `null` of the sample, which has all of it. */
  beginning: z
    .object({
      hasLoads: z.boolean(),
      /** The first page there is to look at. */
      page: pagePlaceSchema.nullable(),
      /** Whether somebody changed a KPI since it was made, or made one: what good is was said. */
      hasJudged: z.boolean(),
      hasArranged: z.boolean(),
      hasReaders: z.boolean(),
    })
    .nullable(),
  /** What others changed on pages lately, the newest first, with the page it is on where it is still there. */
  news: z.array(z.object({ at: z.string(), by: z.string(), said: z.string(), page: pagePlaceSchema.nullable() })),
  offPlan: z
    .object({
      /** "October FY27, year to date, against Budget" */
      frame: z.string(),
      kpis: z.array(
        kpiRowSchema
          .pick({ kpi: true, basisName: true, variance: true, status: true, words: true })
          // The first page that shows it; `null` where none does.
          .extend({ page: pagePlaceSchema.nullable() }),
      ),
    })
    .nullable(),
});

export type Home = z.infer<typeof homeSchema>;
