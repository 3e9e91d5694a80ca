import { z } from "zod";

/** `ready` only when the database answers. */
export const healthSchema = z.object({
  product: z.literal("hackle"),
  ready: z.boolean(),
  database: z.enum(["answers", "does not answer"]),
});
