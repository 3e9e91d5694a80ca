import { Router } from "express";
import type { Knex } from "knex";
import { OPERATIONS } from "#contract/operations.ts";
import type { Structure } from "#server/db/structure.ts";
import { openWorkspace } from "#server/facts/workspace.ts";
import { readAlerts } from "#server/intake/loads/alerts.ts";
import { describeHome } from "#server/home/describe-home.ts";
import { readerOf } from "./session-routes.ts";

/** What a reader meets first. */
export function homeRoutes({ knex, readStructure }: { knex: Knex; readStructure: () => Promise<Structure> }): Router {
  const router = Router();
  router.get(OPERATIONS.home.path, async (_req, res) => {
    res.json(await describeHome(knex, openWorkspace(knex, await readStructure(), readerOf(res))));
  });
  router.get(OPERATIONS.alerts.path, async (_req, res) => {
    res.json(await readAlerts(knex, await readStructure(), readerOf(res)));
  });
  return router;
}
