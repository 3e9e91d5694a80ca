import type { FEEDS } from "#contract/operations/feeds.ts";
import { changeFeed, listFeeds } from "#server/feeds/feeds.ts";
import { startPull, type FeedsPlace } from "#server/feeds/pull-feed.ts";
import { planTurn } from "#server/feeds/schedule.ts";
import type { Routes } from "../serve-operations.ts";

/** Sources that are pulled, by hand or by schedule. */
export function feedRoutes(place: FeedsPlace): Routes<typeof FEEDS> {
  const { knex, company, readStructure } = place;
  const list = async () => listFeeds(knex, await readStructure());
  return {
    feeds: list,
    changeFeed: async ({ params, body: { schedule, mode } }) => {
      const key = params.feed;
      await knex.transaction(async (trx) => {
        await changeFeed(trx, key, { ...(schedule ? { schedule } : {}), ...(mode ? { mode } : {}) });
        // A schedule that was just set begins with its next turn.
        if (schedule) await planTurn(trx, company, { key, schedule });
      });
      return list();
    },
    pullFeed: async ({ params, reader }) => {
      await startPull(place, params.feed, reader.name);
      return list();
    },
  };
}
