import { z } from "zod";

/** `ready` only when the database answers. */
export const healthSchema = z.object({
  product: z.literal("hackle"),
  ready: z.boolean(),
  database: z.enum(["answers", "does not answer"]),
  /** Whether facts are kept in memory; where they are not, figures come from the database and are the same. */
  memory: z.union([
    z.object({ is: z.enum(["off", "building", "failed"]) }),
    z.object({ is: z.literal("beyond"), bytes: z.number(), budget: z.number() }),
    z.object({ is: z.literal("ready"), rows: z.number(), bytes: z.number() }),
  ]),
  /** How many threads answer from memory, beside the server's own. */
  engines: z.number().int(),
  /** The server process that answered. */
  process: z.number().int(),
});

export type Health = z.infer<typeof healthSchema>;
