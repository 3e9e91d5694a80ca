import type { HOME } from "#contract/operations/home.ts";
import { describeHome } from "#server/home/describe-home.ts";
import { readAlerts } from "#server/intake/loads/alerts.ts";
import type { Routes } from "../serve-operations.ts";
import type { ReadingMeans } from "./reading-means.ts";

/** What a reader meets first. */
export function homeRoutes({ knex, readStructure, workspaceFor }: ReadingMeans): Routes<typeof HOME> {
  return {
    home: async (call) => describeHome(knex, await workspaceFor(call), call.reader),
    alerts: async ({ reader }) => readAlerts(knex, await readStructure(), reader),
  };
}
