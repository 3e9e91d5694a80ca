import type { Knex } from "knex";
import { periodName } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, formatMonth, type Month } from "#core/calendar/month.ts";
import { lastDayOf, monthsOf } from "#core/cube/coverage.ts";
import type { Feed, FeedMode, Schedule } from "#contract/feeds.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** A feed as it is stored. */
export interface FeedRow {
  readonly key: string;
  readonly name: string;
  readonly url: string;
  readonly dataset: string;
  readonly schedule: Schedule | null;
  readonly mode: FeedMode;
  readonly last_run: Date | null;
}

/** Up to where a dataset has actuals: the last month, and its last day where facts are daily. */
export interface LoadedTo {
  readonly month: Month;
  readonly day: number | null;
}

const PULLS_LISTED = 12;

/** Up to where a dataset has actuals; `undefined` when it has none. */
export function loadedTo(structure: Structure, dataset: string): LoadedTo | undefined {
  const last = monthsOf(structure.coverage, dataset, "actual").at(-1);
  return last && { month: last.month, day: lastDayOf(last) };
}

/** The feeds with what they would bring next, and their last pulls. */
export async function listFeeds(knex: Knex, structure: Structure): Promise<Feed[]> {
  const feeds = await knex("feed").orderBy("name").select<FeedRow[]>("*");
  return Promise.all(
    feeds.map(async (feed) => {
      const pulls = await knex("pull")
        .where({ feed_key: feed.key })
        .orderBy("id", "desc")
        .limit(PULLS_LISTED)
        .select<PullRow[]>("*");
      return {
        key: feed.key,
        name: feed.name,
        url: feed.url,
        dataset: structure.coverage.datasets.get(feed.dataset)?.name ?? feed.dataset,
        schedule: feed.schedule ?? "never",
        mode: feed.mode,
        next: nextWords(feed, structure),
        pulls: pulls.map((pull) => ({
          id: pull.id,
          startedAt: pull.started_at.toISOString(),
          seconds: pull.ended_at ? (pull.ended_at.getTime() - pull.started_at.getTime()) / 1000 : null,
          startedBy: pull.started_by,
          state: pull.state,
          message: pull.message,
          draftId: pull.draft_id,
          loadId: pull.load_id,
        })),
      };
    }),
  );
}

/** One feed. Throws a problem when there is none. */
export async function readFeed(knex: Knex, key: string): Promise<FeedRow> {
  const feed = await knex("feed").where({ key }).first<FeedRow | undefined>("*");
  if (!feed) throw new ProblemError("not-found", `There is no feed "${key}".`);
  return feed;
}

/** Sets when a feed is pulled by itself, and how the simulated service behaves. */
export async function changeFeed(
  knex: Knex,
  key: string,
  change: { schedule?: Schedule; mode?: FeedMode },
): Promise<void> {
  await readFeed(knex, key);
  if (Object.keys(change).length > 0) await knex("feed").where({ key }).update(change);
}

/** What a pull asks the service for, as the end of its address. */
export function askFor(feed: FeedRow, structure: Structure): string {
  const loaded = loadedTo(structure, feed.dataset);
  if (!loaded)
    throw new ProblemError(
      "feed-failed",
      `${feed.name} continues from what is loaded, and nothing is loaded yet. Load its first file by hand.`,
    );
  const params = new URLSearchParams();
  if (feed.mode === "corrected") params.set("corrected", formatMonth(loaded.month));
  else {
    params.set(
      "after",
      loaded.day === null
        ? formatMonth(loaded.month)
        : `${formatMonth(loaded.month)}-${String(loaded.day).padStart(2, "0")}`,
    );
    params.set("mode", feed.mode);
  }
  return params.toString();
}

function nextWords(feed: FeedRow, structure: Structure): string {
  const loaded = loadedTo(structure, feed.dataset);
  if (!loaded) return "nothing yet: load the first file by hand";
  const name = (month: Month) => periodName(structure.calendar, month);
  if (feed.mode === "corrected") return `${name(loaded.month)} again, corrected`;
  if (loaded.day !== null && loaded.day < daysInMonth(loaded.month))
    return `the rest of ${name(loaded.month)}, after day ${loaded.day}`;
  return name(loaded.month + 1);
}

interface PullRow {
  id: number;
  started_at: Date;
  ended_at: Date | null;
  started_by: string;
  state: Feed["pulls"][number]["state"];
  message: string;
  draft_id: number | null;
  load_id: number | null;
}
