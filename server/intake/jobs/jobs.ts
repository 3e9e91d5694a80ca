import { setTimeout as wait } from "node:timers/promises";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Job } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { isConnectionLoss, toProblem } from "#server/problems/to-problem.ts";
import { ServerStopped } from "#server/work/work-runner.ts";
import { cancelWork, enqueue, type ClaimedWork } from "#server/work/work-queue.ts";
import { readDraft } from "../drafts/draft-record.ts";
import { dropStaging } from "../posting/staging.ts";
import type { Progress } from "../drafts/run-file.ts";
import { endJob, insertJob, lastJob, noteProgress, readJob } from "./job-record.ts";
import type { IntakeProcesses, TaskPlace } from "./task.ts";

const PROGRESS_MS = 400;
const LOOK_MS = 60;
/** How long whoever does a job is waited for to break it off. */
const CANCEL_MS = 10_000;

/** A company whose files are checked and posted. */
export interface JobsPlace {
  readonly knex: Knex;
  /** Its key in the registry. */
  readonly company: string;
}

interface JobSubject {
  readonly job: number;
  readonly draft: number;
  readonly person: string;
  /** The version of the draft that is posted. */
  readonly version?: number;
}

/** Puts a check of a draft into the queue; checks of older versions of it are given up. Returns the job's number. */
export async function startCheck(place: JobsPlace, draftId: number, person: string): Promise<number> {
  const { knex, company } = place;
  const draft = await readDraft(knex, draftId);
  return knex.transaction(async (trx) => {
    await giveUp(trx, company, { draft: draftId, kind: "check" });
    const id = await insertJob(trx, { kind: "check", draftId, fileName: draft.file.name, person });
    await enqueue(trx, {
      company,
      task: "check",
      subject: { job: id, draft: draftId, person, kind: "check" },
      alone: `draft/${draftId}`,
    });
    return id;
  });
}

/** Puts the posting of a draft at a version into the queue. Throws a problem when it is being posted already. */
export async function startPost(place: JobsPlace, draftId: number, version: number, person: string): Promise<number> {
  const { knex, company } = place;
  const draft = await readDraft(knex, draftId);
  return knex.transaction(async (trx) => {
    // Of two who post it at once, one waits here and then finds the other's job.
    await trx("draft").where({ id: draftId }).forUpdate().first("id");
    const last = await lastJob(trx, draftId);
    if (last?.kind === "post" && !hasEnded(last))
      throw new ProblemError("someone-posting", "This file is already being posted.");
    const id = await insertJob(trx, { kind: "post", draftId, fileName: draft.file.name, person });
    await enqueue(trx, {
      company,
      task: "post",
      subject: { job: id, draft: draftId, person, version, kind: "post" },
      alone: `posting/${draft.definition.rules.mapping.dataset}`,
    });
    return id;
  });
}

/** Breaks a job off, whichever server does it; a posting leaves nothing behind. Returns how it stands. */
export async function cancelJob({ knex, company }: JobsPlace, id: number): Promise<Job> {
  await giveUp(knex, company, { job: id });
  const until = Date.now() + CANCEL_MS;
  for (;;) {
    const found = await readJob(knex, id);
    if (hasEnded(found) || Date.now() > until) return found;
    await wait(LOOK_MS);
  }
}

/** Waits for a job to end, and tells how it did. */
export async function finishedJob({ knex }: JobsPlace, id: number, signal?: AbortSignal): Promise<Job> {
  for (;;) {
    const found = await readJob(knex, id);
    if (hasEnded(found)) return found;
    signal?.throwIfAborted();
    await wait(LOOK_MS);
  }
}

async function giveUp(knex: Knex, company: string, subject: Readonly<Record<string, unknown>>): Promise<void> {
  for (const waiting of await cancelWork(knex, company, subject))
    await endJob(knex, (waiting.subject as unknown as JobSubject).job, { state: "cancelled", message: CANCELLED });
}

const CANCELLED = "Cancelled; nothing was posted.";

/**
 * Does a check or a posting that was claimed. It ends with what became of it in its job; where the server before did not
 * come to its end, a check is made again, and a posting left nothing behind and is said to have been broken off.
 */
export async function workOnJob(
  { knex, company, place }: JobsPlace & { readonly place: TaskPlace },
  { processes, logger }: { readonly processes: IntakeProcesses; readonly logger: Logger },
  { task, subject, attempts }: ClaimedWork,
  signal: AbortSignal,
): Promise<void> {
  const { job, draft, version = 0, person } = subject as unknown as JobSubject;
  const found = await readJob(knex, job).catch((error: unknown) => {
    // Its draft's company may have been put back to what it was before.
    if ((error as ProblemError).code === "not-found") return undefined;
    throw error;
  });
  if (!found || hasEnded(found)) return;
  if (task === "post" && attempts > 1) await dropStaging(knex, job);
  if (task === "post" && attempts > 1)
    return endJob(knex, job, {
      state: "interrupted",
      message:
        "The server or its database stopped while this file was posted. Nothing of it was posted; the draft is as it was.",
    });
  let latest: Progress = { rows: 0, share: 0 };
  await noteProgress(knex, job, latest);
  const beat = setInterval(() => void noteProgress(knex, job, latest).catch(() => {}), PROGRESS_MS);
  const options = { signal, onProgress: (progress: Progress) => void (latest = progress) };
  try {
    if (task === "post")
      await processes.run({ kind: "post", ...place, company, draftId: draft, version, person, jobId: job }, options);
    else await processes.run({ kind: "check", ...place, draftId: draft }, options);
    clearInterval(beat);
    await endJob(knex, job, { state: "done", share: 1, rows: latest.rows });
  } catch (error) {
    clearInterval(beat);
    // Another server takes it over.
    if (isConnectionLoss(error) || signal.reason instanceof ServerStopped) throw error;
    const problem = toProblem(error);
    if (problem.code === "internal") logger.error({ err: error, cause: problem.cause }, `${task} failed`);
    if (task === "post") await dropStaging(knex, job);
    await endJob(
      knex,
      job,
      signal.aborted ? { state: "cancelled", message: CANCELLED } : { state: "failed", message: problem.message },
    );
  }
}
