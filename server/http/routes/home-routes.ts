import { Router } from "express";
import { OPERATIONS } from "#contract/operations.ts";
import { readAlerts } from "#server/intake/loads/alerts.ts";
import { describeHome } from "#server/home/describe-home.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** What a reader meets first. */
export function homeRoutes({ knex, readStructure, workspaceFor }: ReadingRoutes): Router {
  const router = Router();
  router.get(OPERATIONS.home.path, async (_req, res) => {
    res.json(await describeHome(knex, await workspaceFor(res), readerOf(res)));
  });
  router.get(OPERATIONS.alerts.path, async (_req, res) => {
    res.json(await readAlerts(knex, await readStructure(), readerOf(res)));
  });
  return router;
}
