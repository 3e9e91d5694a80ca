import { Router } from "express";
import type { Knex } from "knex";
import type { Health } from "#contract/health.ts";
import type { MemoryState } from "#server/facts/memory/cell-keeper.ts";
import { openApiDocument } from "../openapi.ts";

/** Health for supervisors, and the API's description. */
export function healthRoutes(
  knex: Knex,
  { memory, engines }: { memory: () => MemoryState; engines: () => number },
): Router {
  const router = Router();
  const document = openApiDocument();
  router.get("/api/health", async (_req, res) => {
    const answers = await databaseAnswers(knex);
    res.status(answers ? 200 : 503).json({
      product: "hackle",
      ready: answers,
      database: answers ? "answers" : "does not answer",
      memory: memory(),
      engines: engines(),
      process: process.pid,
    } satisfies Health);
  });
  router.get("/api/openapi.json", (_req, res) => {
    res.json(document);
  });
  return router;
}

async function databaseAnswers(knex: Knex): Promise<boolean> {
  try {
    await knex.raw("select 1").timeout(2000);
    return true;
  } catch {
    return false;
  }
}
