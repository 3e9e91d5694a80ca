import { z } from "zod";

/** Which part of a dataset is exported, and as what. */
export const exportQuerySchema = z.object({
  format: z.enum(["csv", "parquet"]).default("csv"),
  scenario: z.string().max(500).optional(),
  from: z.string().max(20).optional(),
  to: z.string().max(20).optional(),
  scope: z.string().max(4000).optional(),
});

const named = z.object({ key: z.string(), name: z.string() });

/** Datasets, scenarios and members an export can be made of. */
export const exportableSchema = z.object({
  datasets: z.array(named),
  scenarios: z.array(named),
  dimensions: z.array(named.extend({ members: z.array(named) })),
});
