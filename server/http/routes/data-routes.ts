import { Router } from "express";
import type { Knex } from "knex";
import { OPERATIONS } from "#contract/operations.ts";
import type { Structure } from "#server/db/structure.ts";
import { listLoads } from "#server/intake/list-loads.ts";

/** What was loaded. */
export function dataRoutes({ knex, readStructure }: { knex: Knex; readStructure: () => Promise<Structure> }): Router {
  const router = Router();
  router.get(OPERATIONS.loads.path, async (_req, res) => {
    res.json(await listLoads(knex, (await readStructure()).calendar));
  });
  return router;
}
