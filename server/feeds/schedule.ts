import { Cron } from "croner";
import type { Knex } from "knex";
import type { Schedule } from "#contract/feeds.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { cancelWork, enqueue } from "#server/work/work-queue.ts";
import type { FeedRow } from "./feeds.ts";
import { startPull, type FeedsPlace } from "./pull-feed.ts";

const PATTERNS: Readonly<Record<Exclude<Schedule, "never">, string>> = {
  minutely: "* * * * *",
  hourly: "0 * * * *",
  daily: "30 6 * * *",
};

/** When a feed is pulled by itself next, after a time; `null` where it is not. */
export function nextTurn(schedule: Schedule | null, after: Date): Date | null {
  return schedule === null || schedule === "never" ? null : new Cron(PATTERNS[schedule]).nextRun(after);
}

/**
 * Puts a feed's next turn into the queue, or takes it out where it has none any more. Of several servers one gets each
 * turn, and a company whose feeds wait for theirs costs nothing.
 */
export async function planTurn(
  knex: Knex,
  company: string,
  { key, schedule }: Pick<FeedRow, "key" | "schedule">,
  after: Date = new Date(),
): Promise<void> {
  const runAfter = nextTurn(schedule, after);
  const subject = { kind: "turn", feed: key };
  if (runAfter) await enqueue(knex, { company, task: "turn", subject, once: `turn/${key}`, runAfter });
  else await cancelWork(knex, company, subject);
}

/** Plans the turns of all feeds of a company, by the schema that its tables are in, whose turns were not planned yet. */
export async function planTurns(knex: Knex, { key, schema }: { key: string; schema: string }): Promise<void> {
  const feeds = await knex.withSchema(schema).from("feed").whereNotNull("schedule").select<FeedRow[]>("*");
  for (const feed of feeds) {
    const planned: unknown = await knex("hackle_companies.work")
      .where({ company: key, once: `turn/${feed.key}` })
      .first("id");
    if (!planned) await planTurn(knex, key, feed, feed.last_run ?? new Date());
  }
}

/** Takes a feed's turn: plans the next one and pulls it. Returns why it was not pulled, where it was not. */
export async function takeTurn(place: FeedsPlace, key: string): Promise<ProblemError | undefined> {
  const feed = await place.knex("feed").where({ key }).first<FeedRow | undefined>("*");
  if (!feed) return undefined;
  await planTurn(place.knex, place.company, feed);
  if (nextTurn(feed.schedule, new Date()) === null) return undefined;
  try {
    await startPull(place, key, "the schedule");
    return undefined;
  } catch (error) {
    if (error instanceof ProblemError) return error;
    throw error;
  }
}
