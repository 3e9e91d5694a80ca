import type { ReadableStream } from "node:stream/web";
import type { Knex } from "knex";
import type { Report } from "#contract/intake.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { headTable } from "#server/intake/drafts/detect.ts";
import { readDraft } from "#server/intake/drafts/draft-record.ts";
import { openDraft } from "#server/intake/drafts/open-draft.ts";
import { storeFile, type FileStore, type StoredFile } from "#server/intake/file-store.ts";
import type { Jobs } from "#server/intake/jobs/jobs.ts";
import { receivedStream } from "./received-stream.ts";
import { askFor, readFeed, type FeedRow } from "./feeds.ts";

/** What pulling needs. */
export interface PullOptions {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
  readonly jobs: Jobs;
  readonly store: FileStore;
}

/** A service that answers nothing for this long is given up. */
const PATIENCE_MS = 60_000;

interface Outcome {
  readonly state: "posted" | "waiting" | "nothing" | "failed";
  readonly message: string;
  readonly draftId?: number;
  readonly loadId?: number;
}

/**
 * Starts a pull: fetches the next extract, and posts it if its kind is known and no check
 * stops it; else it waits as a draft. Returns the pull's number at once; how it ended is
 * in the log. Throws a problem when the feed is being pulled already.
 */
export async function startPull(
  options: PullOptions,
  key: string,
  person: string,
): Promise<{ id: number; done: Promise<void> }> {
  const { knex } = options;
  const feed = await readFeed(knex, key);
  await knex("pull")
    .where({ feed_key: key, state: "running" })
    .where("started_at", "<", knex.raw("now() - interval '10 minutes'"))
    .update({
      state: "failed",
      ended_at: knex.fn.now(),
      message: "The server stopped during this pull. Nothing of it was posted.",
    });
  const running: unknown = await knex("pull").where({ feed_key: key, state: "running" }).first("id");
  if (running)
    throw new ProblemError("someone-posting", `${feed.name} is being pulled at the moment. Wait until it is done.`);
  const waiting: { name: string } | undefined = await knex("pull")
    .join("draft", "draft.id", "pull.draft_id")
    .join("file", "file.id", "draft.file_id")
    .where({ feed_key: key, state: "waiting" })
    .first("file.name");
  if (waiting) {
    throw new ProblemError(
      "in-use",
      `${waiting.name} came from this feed and still waits to be posted. Post or discard it first; the next pull follows what is posted.`,
    );
  }
  const [row]: { id: number }[] = await knex("pull")
    .insert({ feed_key: key, started_by: person, state: "running", message: "Asking the service." })
    .returning("id");
  await knex("feed").where({ key }).update({ last_run: knex.fn.now() });
  const done = pull(options, feed, person)
    .catch((error: unknown): Outcome => ({ state: "failed", message: toProblem(error).message }))
    .then(async ({ state, message, draftId, loadId }) => {
      await knex("pull")
        .where({ id: row!.id })
        .update({ state, message, ended_at: knex.fn.now(), draft_id: draftId ?? null, load_id: loadId ?? null });
    });
  return { id: row!.id, done };
}

async function pull(options: PullOptions, feed: FeedRow, person: string): Promise<Outcome> {
  const { knex, jobs, store } = options;
  const structure = await options.readStructure();
  const file = await fetchFile(options, feed, structure, person);
  if (!file) return { state: "nothing", message: "The service has nothing newer." };
  const draftId = await openDraft(knex, structure, file, {
    limits: store.limits,
    workbookHeads: (path, request) => jobs.threads.run({ kind: "head", store, path, request }),
  });
  const wait = async (message: string): Promise<Outcome> => {
    await knex("draft").where({ id: draftId }).update({ note: message });
    return { state: "waiting", message, draftId };
  };
  const draft = await readDraft(knex, draftId);
  if (draft.intakeId === null)
    return wait(await strangeColumns(knex, feed, headTable(draft.detected.head, draft.definition.reading).columns));
  const check = await jobs.finished(await jobs.check(draftId, person));
  if (check.state !== "done") return wait(check.message ?? "It could not be checked.");
  const { report, version } = await readDraft(knex, draftId);
  const stop = openStop(report);
  if (stop) return wait(stop);
  const post = await jobs.finished(await jobs.post(draftId, version, person));
  if (post.state !== "done" || post.loadId === null) return wait(post.message ?? "It could not be posted.");
  return {
    state: "posted",
    message: `${file.name}: ${report!.facts.toLocaleString("en-GB")} facts of ${report!.months} posted${report!.rejected > 0 ? `, ${report!.rejected} lines left out` : ""}.`,
    loadId: post.loadId,
  };
}

async function fetchFile(
  { knex, store }: PullOptions,
  feed: FeedRow,
  structure: Structure,
  person: string,
): Promise<StoredFile | undefined> {
  const url = `${feed.url}?${askFor(feed, structure)}`;
  let response: Response;
  try {
    response = await fetch(url, { signal: AbortSignal.timeout(PATIENCE_MS) });
  } catch (error) {
    throw new ProblemError(
      "feed-failed",
      `The service at ${feed.url} does not answer. Check that it runs and can be reached, and pull again.`,
      { cause: error },
    );
  }
  if (response.status === 204) return undefined;
  if (!response.ok || !response.body) {
    const said = ((await response.json().catch(() => null)) as { detail?: string } | null)?.detail;
    throw new ProblemError(
      "feed-failed",
      `The service answered with status ${response.status}${said ? `: ${said}` : "."} Nothing was loaded.`,
    );
  }
  const name = /filename="([^"]+)"/.exec(response.headers.get("content-disposition") ?? "")?.[1] ?? `${feed.key}.csv`;
  const stream = receivedStream(response.body as ReadableStream);
  try {
    return await storeFile(knex, store, { stream, name, person });
  } catch (error) {
    if (error instanceof ProblemError && error.code !== "invalid-request") throw error;
    throw new ProblemError(
      "feed-failed",
      `The service broke off in the middle of ${name}. Nothing was loaded; pull again.`,
      { cause: error },
    );
  }
}

function openStop(report: Report | null): string | undefined {
  if (!report) return "It could not be checked.";
  return report.findings.find((f) => f.severity === "stop" && f.answer === null)?.message;
}

/** Says how the columns differ from those this feed's dataset was loaded with before. */
async function strangeColumns(knex: Knex, feed: FeedRow, columns: readonly string[]): Promise<string> {
  const known: { name: string; columns: string[] } | undefined = await knex("intake")
    .where({ dataset: feed.dataset })
    .orderBy("updated_at", "desc")
    .first("name", "columns");
  if (!known) return "A file of a new kind: look at it once and post it; the next ones post by themselves.";
  const missing = known.columns.filter((c) => !columns.includes(c));
  const added = columns.filter((c) => !known.columns.includes(c));
  const words = [
    ...(missing.length > 0 ? [`${missing.join(", ")} ${missing.length === 1 ? "is" : "are"} missing`] : []),
    ...(added.length > 0 ? [`${added.join(", ")} ${added.length === 1 ? "is" : "are"} new`] : []),
  ];
  return `The columns are not those of “${known.name}”: ${words.join("; ")}. Nothing was posted; look at the file, or ask who runs the service.`;
}
