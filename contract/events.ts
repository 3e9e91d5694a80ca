import { z } from "zod";
import { EVENT_VERDICTS } from "#core/ahead/known-events.ts";
import { parseDay } from "#core/calendar/days.ts";

/** A day as "2026-09-20". */
const daySchema = z.string().refine((text) => parseDay(text) !== undefined, "Write a day as 2026-09-20.");

/** What an analyst says of something out of the ordinary, as a panel shows it. */
export const eventSaySchema = z
  .object({
    kpi: z.string().max(100),
    /** Whether every KPI is to know of it, or only the one it was seen in. */
    isForAll: z.boolean().default(false),
    from: daySchema,
    to: daySchema,
    /** Where one looked, as an address writes it. */
    scope: z.string().max(4000).optional(),
    at: z.object({ dimension: z.string().max(100), members: z.array(z.string().max(100)).min(1).max(100) }).nullable(),
    isOfWhole: z.boolean(),
    verdict: z.enum(EVENT_VERDICTS),
    reason: z.string().trim().min(1).max(300),
  })
  .refine(({ from, to }) => from <= to, { path: ["to"], message: "It ends before it begins." });
/** What is kept of it. */
export const eventKeptSchema = z.object({ id: z.number().int() });

export type EventSay = z.input<typeof eventSaySchema>;
