import { healthSchema } from "../health.ts";
import { operations } from "./operation.ts";

/** What supervisors ask. */
export const HEALTH = operations({
  health: {
    method: "get",
    path: "/api/health",
    access: "anyone",
    summary: "Whether the server and its database are ready",
    answer: healthSchema,
  },
});
