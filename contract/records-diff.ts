import { z } from "zod";

const recordsSchema = z.record(z.string().max(400), z.unknown());

/** What an edit changes, record by record; see `RecordsDiff` in the core. */
export const recordsDiffSchema = z.object({
  added: recordsSchema,
  changed: z.record(z.string().max(400), z.object({ from: z.unknown(), to: z.unknown() })),
  removed: recordsSchema,
});
