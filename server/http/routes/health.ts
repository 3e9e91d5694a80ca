import type { Knex } from "knex";
import type { HEALTH } from "#contract/operations/health.ts";
import type { MemoryState } from "#server/facts/memory/cell-keeper.ts";
import type { Routes } from "../serve-operations.ts";

/** Health for supervisors. */
export function healthRoutes(
  knex: Knex,
  { memory, engines }: { memory: () => MemoryState; engines: () => number },
): Routes<typeof HEALTH> {
  return {
    health: async ({ res }) => {
      const answers = await databaseAnswers(knex);
      res.status(answers ? 200 : 503);
      return {
        product: "hackle",
        ready: answers,
        database: answers ? "answers" : "does not answer",
        memory: memory(),
        engines: engines(),
        process: process.pid,
      };
    },
  };
}

async function databaseAnswers(knex: Knex): Promise<boolean> {
  try {
    await knex.raw("select 1").timeout(2000);
    return true;
  } catch {
    return false;
  }
}
