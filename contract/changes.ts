import { z } from "zod";

/** A change of packs, KPIs or the structure, as it is remembered. */
export const changeSchema = z.object({
  id: z.number().int(),
  at: z.string(),
  by: z.string(),
  said: z.string(),
  isUndone: z.boolean(),
  mayUndo: z.boolean(),
});

export const changeListSchema = z.array(changeSchema).readonly();

export type Change = z.infer<typeof changeSchema>;
