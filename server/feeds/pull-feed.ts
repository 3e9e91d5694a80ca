import type { Knex } from "knex";
import { Readable } from "node:stream";
import type { ReadableStream } from "node:stream/web";
import type { Job, Report } from "#contract/intake.ts";
import type { Structure } from "#server/db/structure.ts";
import { headTable } from "#server/intake/drafts/detect.ts";
import { openDraft } from "#server/intake/drafts/open-draft.ts";
import { readDraft } from "#server/intake/drafts/draft-record.ts";
import { storeFile, type FileStore, type StoredFile } from "#server/intake/file-store.ts";
import { finishedJob, startCheck, startPost } from "#server/intake/jobs/jobs.ts";
import { lastJob } from "#server/intake/jobs/job-record.ts";
import type { IntakeProcesses } from "#server/intake/jobs/task.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { isConnectionLoss, toProblem } from "#server/problems/to-problem.ts";
import { enqueue, type ClaimedWork } from "#server/work/work-queue.ts";
import { ServerStopped } from "#server/work/work-runner.ts";
import { askFor, readFeed, type FeedRow } from "./feeds.ts";
import { receivedStream } from "./received-stream.ts";

/** A company whose feeds are pulled. */
export interface FeedsPlace {
  readonly knex: Knex;
  /** Its key in the registry. */
  readonly company: string;
  readonly readStructure: () => Promise<Structure>;
  readonly store: FileStore;
}

/** A service that says nothing for this long is given up, before its answer or in the middle of it. */
const PATIENCE_MS = 60_000;

interface Outcome {
  readonly state: "posted" | "waiting" | "nothing" | "failed";
  readonly message: string;
  readonly draftId?: number;
  readonly loadId?: number;
}

/**
 * Puts a pull into the queue: the next extract is fetched, and posted if its kind is known and no check stops it; else it
 * waits as a draft. Returns the pull's number at once; how it ended is in the log. Throws a problem when the feed is being
 * pulled already.
 */
export async function startPull({ knex, company }: FeedsPlace, key: string, person: string): Promise<number> {
  const feed = await readFeed(knex, key);
  return knex.transaction(async (trx) => {
    // Of two who pull it at once, one waits here and then finds the other's pull.
    await trx("feed").where({ key }).forUpdate().first("key");
    const running: unknown = await trx("pull").where({ feed_key: key, state: "running" }).first("id");
    if (running)
      throw new ProblemError("someone-posting", `${feed.name} is already being pulled. Wait until it finishes.`);
    const waiting: { name: string } | undefined = await trx("pull")
      .join("draft", "draft.id", "pull.draft_id")
      .join("file", "file.id", "draft.file_id")
      .where({ feed_key: key, state: "waiting" })
      .first("file.name");
    if (waiting)
      throw new ProblemError(
        "in-use",
        `${waiting.name} came from this feed and still waits to be posted. Post or discard it first; the next pull follows what is posted.`,
      );
    const [row]: { id: number }[] = await trx("pull")
      .insert({ feed_key: key, started_by: person, state: "running", message: "Asking the service." })
      .returning("id");
    await trx("feed").where({ key }).update({ last_run: trx.fn.now() });
    await enqueue(trx, {
      company,
      task: "pull",
      subject: { kind: "pull", pull: row!.id, feed: key, person },
      alone: `pull/${key}`,
    });
    return row!.id;
  });
}

/** Does a pull that was claimed, and notes how it ended; one whose server stopped goes on from where it was. */
export async function workOnPull(
  place: FeedsPlace & { readonly processes: IntakeProcesses },
  { subject, attempts }: ClaimedWork,
  signal: AbortSignal,
): Promise<void> {
  const { pull: id, feed: key, person } = subject as { pull: number; feed: string; person: string };
  const { knex } = place;
  const row = await knex("pull").where({ id }).first<{ state: string; draft_id: number | null } | undefined>("*");
  if (row?.state !== "running") return;
  let outcome: Outcome;
  try {
    if (row.draft_id !== null) outcome = await bringOn(place, row.draft_id, person, signal);
    else if (attempts > 1)
      outcome = { state: "failed", message: "The server stopped during this pull. Nothing of it was posted." };
    else outcome = await pull(place, await readFeed(knex, key), { id, person, signal });
  } catch (error) {
    if (isConnectionLoss(error) || signal.reason instanceof ServerStopped) throw error;
    outcome = { state: "failed", message: toProblem(error).message };
  }
  const { state, message, draftId, loadId } = outcome;
  await knex("pull")
    .where({ id })
    .update({ state, message, ended_at: knex.fn.now(), draft_id: draftId ?? null, load_id: loadId ?? null });
}

async function pull(
  place: FeedsPlace & { readonly processes: IntakeProcesses },
  feed: FeedRow,
  { id, person, signal }: { readonly id: number; readonly person: string; readonly signal: AbortSignal },
): Promise<Outcome> {
  const { knex, processes, store } = place;
  const structure = await place.readStructure();
  const file = await fetchFile(place, feed, structure, person, signal);
  if (!file) return { state: "nothing", message: "The service has nothing newer." };
  const draftId = await openDraft(knex, structure, file, {
    limits: store.limits,
    workbookHeads: (path, request) => processes.run({ kind: "head", store, path, request }, { signal }),
  });
  await knex("pull")
    .where({ id })
    .update({ draft_id: draftId, message: `${file.name} is being checked.` });
  const draft = await readDraft(knex, draftId);
  if (draft.intakeId === null) {
    const { columns } = headTable(draft.detected.head, draft.definition.reading);
    return waitAsDraft(knex, draftId, await strangeColumns(knex, feed, columns));
  }
  return bringOn(place, draftId, person, signal);
}

/** Checks a draft and posts it, or goes on where that was begun before; what is in the way is said with the draft. */
async function bringOn(place: FeedsPlace, draftId: number, person: string, signal: AbortSignal): Promise<Outcome> {
  const { knex } = place;
  const before = await lastJob(knex, draftId);
  const isPosting = before?.kind === "post";
  if (!isPosting) {
    const check = await finishedJob(place, before?.id ?? (await startCheck(place, draftId, person)), signal);
    if (check.state !== "done") return waitAsDraft(knex, draftId, check.message ?? "It could not be checked.");
  }
  const draft = await readDraft(knex, draftId).catch((error: unknown) => {
    // Posted meanwhile, it is no draft any more.
    if (isPosting) return undefined;
    throw error;
  });
  if (draft && !isPosting) {
    const stop = openStop(draft.report);
    if (stop) return waitAsDraft(knex, draftId, stop);
  }
  const job = isPosting ? before.id : await startPost(place, draftId, draft!.version, person);
  const post: Job = await finishedJob(place, job, signal);
  if (post.state !== "done" || post.loadId === null)
    return waitAsDraft(knex, draftId, post.message ?? "It could not be posted.");
  const load = await knex("load")
    .where({ id: post.loadId })
    .first<{ file_name: string; rows: number; rejected: number }>("file_name", "rows", "rejected");
  const months = draft?.report ? ` of ${draft.report.months}` : "";
  return {
    state: "posted",
    message: `${load.file_name}: ${load.rows.toLocaleString("en-GB")} facts${months} posted${load.rejected > 0 ? `, ${load.rejected} lines left out` : ""}.`,
    loadId: post.loadId,
  };
}

async function waitAsDraft(knex: Knex, draftId: number, message: string): Promise<Outcome> {
  await knex("draft").where({ id: draftId }).update({ note: message });
  return { state: "waiting", message, draftId };
}

async function fetchFile(
  { knex, store }: FeedsPlace,
  feed: FeedRow,
  structure: Structure,
  person: string,
  signal: AbortSignal,
): Promise<StoredFile | undefined> {
  const url = `${feed.url}?${askFor(feed, structure)}`;
  const silence = silenceWatch(PATIENCE_MS);
  try {
    let response: Response;
    try {
      response = await fetch(url, { signal: AbortSignal.any([signal, silence.signal]) });
    } catch (error) {
      signal.throwIfAborted();
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
    const stream = Readable.from(heard(receivedStream(response.body as ReadableStream), silence.hear));
    try {
      return await storeFile(knex, store, { stream, name, person });
    } catch (error) {
      signal.throwIfAborted();
      if (error instanceof ProblemError && error.code !== "invalid-request") throw error;
      if (isConnectionLoss(error) && !silence.signal.aborted && !isStreamEnd(error)) throw error;
      throw new ProblemError(
        "feed-failed",
        `The service broke off in the middle of ${name}. Nothing was loaded; pull again.`,
        { cause: error },
      );
    }
  } finally {
    silence.stop();
  }
}

/** Ends when nothing was heard for so long: a slow download may take its time as long as something comes. */
function silenceWatch(ms: number): {
  readonly signal: AbortSignal;
  readonly hear: () => void;
  readonly stop: () => void;
} {
  const silent = new AbortController();
  const timer = setTimeout(() => silent.abort(new Error("It stopped responding.")), ms);
  return { signal: silent.signal, hear: () => void timer.refresh(), stop: () => clearTimeout(timer) };
}

/** What comes, telling each time that something did. */
async function* heard(stream: Readable, hear: () => void): AsyncGenerator<Buffer> {
  for await (const chunk of stream) {
    hear();
    yield chunk as Buffer;
  }
}

/** Whether a stream of the service ended too early, rather than the connection to the database. */
function isStreamEnd(error: unknown): boolean {
  const { code, cause } = error as NodeJS.ErrnoException & { cause?: { code?: string } };
  return /^UND_ERR|ECONNRESET|ERR_STREAM/.test(code ?? cause?.code ?? "");
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
  if (!known) return "A new kind of file: review and post it once; the next ones post automatically.";
  const missing = known.columns.filter((c) => !columns.includes(c));
  const added = columns.filter((c) => !known.columns.includes(c));
  const words = [
    ...(missing.length > 0 ? [`${missing.join(", ")} ${missing.length === 1 ? "is" : "are"} missing`] : []),
    ...(added.length > 0 ? [`${added.join(", ")} ${added.length === 1 ? "is" : "are"} new`] : []),
  ];
  return `The columns are not those of “${known.name}”: ${words.join("; ")}. Nothing was posted; look at the file, or ask who runs the service.`;
}
