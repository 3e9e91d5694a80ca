import { Cron } from "croner";
import type { Knex } from "knex";
import type { Logger } from "pino";
import type { Schedule } from "#contract/feeds.ts";
import type { FeedRow } from "./feeds.ts";
import { startPull, type PullOptions } from "./pull-feed.ts";

const PATTERNS: Readonly<Record<Exclude<Schedule, "never">, string>> = {
  minutely: "* * * * *",
  hourly: "0 * * * *",
  daily: "30 6 * * *",
};
const LOOK_MS = 10_000;

/** Pulls feeds when their time has come. Returns how to stop. Of several servers one gets each turn. */
export function startSchedule(options: PullOptions, logger: Logger): () => void {
  const look = async () => {
    for (const feed of await dueFeeds(options.knex, new Date())) {
      await startPull(options, feed.key, "the schedule").catch((error: unknown) =>
        logger.warn({ err: error, feed: feed.key }, "scheduled pull"),
      );
    }
  };
  const timer = setInterval(() => void look().catch(() => {}), LOOK_MS);
  timer.unref();
  return () => clearInterval(timer);
}

/** Claims the feeds whose next turn has come by a time. */
export async function dueFeeds(knex: Knex, now: Date): Promise<FeedRow[]> {
  const feeds = await knex("feed").whereNotNull("schedule").select<FeedRow[]>("*");
  const due: FeedRow[] = [];
  for (const feed of feeds) {
    if (feed.schedule === null || feed.schedule === "never") continue;
    // A schedule that was just set begins with its next turn.
    if (feed.last_run === null) {
      await knex("feed").where({ key: feed.key }).whereNull("last_run").update({ last_run: now });
      continue;
    }
    const turn = new Cron(PATTERNS[feed.schedule]).nextRun(feed.last_run);
    if (!turn || turn > now) continue;
    const claimed = await knex("feed").where({ key: feed.key, last_run: feed.last_run }).update({ last_run: now });
    if (claimed === 1) due.push(feed);
  }
  return due;
}
