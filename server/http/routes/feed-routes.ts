import { Router, type Response } from "express";
import type { Knex } from "knex";
import { feedChangeSchema } from "#contract/feeds.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import { changeFeed, listFeeds } from "#server/feeds/feeds.ts";
import { startPull, type FeedsPlace } from "#server/feeds/pull-feed.ts";
import { planTurn } from "#server/feeds/schedule.ts";
import { readerOf } from "./session-routes.ts";
import { readRequest } from "#server/problems/to-problem.ts";

/** Sources that are pulled, by hand or by schedule. */
export function feedRoutes(options: FeedsPlace): Router {
  const router = Router();
  const { knex, company } = options;
  const answer = async (res: Response, database: Knex = knex) => {
    res.json(await listFeeds(database, await options.readStructure()));
  };
  router.get(OPERATIONS.feeds.path, async (_req, res) => {
    requireEditor(readerOf(res));
    await answer(res);
  });
  router.put(OPERATIONS.changeFeed.path, async (req, res) => {
    requireEditor(readerOf(res));
    const { schedule, mode } = readRequest(feedChangeSchema, req.body);
    const key = String(req.params["feed"]);
    await knex.transaction(async (trx) => {
      await changeFeed(trx, key, { ...(schedule ? { schedule } : {}), ...(mode ? { mode } : {}) });
      // A schedule that was just set begins with its next turn.
      if (schedule) await planTurn(trx, company, { key, schedule });
    });
    await answer(res);
  });
  router.post(OPERATIONS.pullFeed.path, async (req, res) => {
    const { name } = requireEditor(readerOf(res));
    await startPull(options, String(req.params["feed"]), name);
    await answer(res);
  });
  return router;
}
