import { setTimeout as wait } from "node:timers/promises";
import type { Knex } from "knex";
import type { Logger } from "pino";
import type { Job } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { readDraft } from "../drafts/draft-record.ts";
import type { Progress } from "../drafts/run-file.ts";
import type { FileStore } from "../file-store.ts";
import { insertJob, markInterrupted, readJob } from "./job-record.ts";
import { Threads } from "./threads.ts";

const PROGRESS_MS = 400;
const WATCH_MS = 15_000;
const END_ATTEMPTS = 240;
const END_PAUSE_MS = 250;
/** How long another server is waited for to break its job off. */
const CANCEL_MS = 10_000;

/** What jobs need from outside. */
export interface JobsOptions {
  readonly knex: Knex;
  readonly databaseUrl: string;
  readonly store: FileStore;
  readonly logger: Logger;
}

/** Checks and postings that go on beside the requests; their state is in the database, so that any server can tell of it. */
export class Jobs {
  readonly threads: Threads;
  private readonly running = new Map<
    number,
    { draftId: number; kind: Job["kind"]; abort: AbortController; done: Promise<void> }
  >();
  private readonly watch: NodeJS.Timeout;
  private isClosed = false;

  constructor(private readonly options: JobsOptions) {
    this.threads = new Threads(options.store.limits.readerMegabytes);
    const look = () => void markInterrupted(options.knex).catch(() => {});
    look();
    this.watch = setInterval(look, WATCH_MS);
    this.watch.unref();
  }

  /** Starts checking a draft; a check of an older version of it is given up. */
  async check(draftId: number, person: string): Promise<number> {
    for (const job of this.running.values()) if (job.draftId === draftId && job.kind === "check") job.abort.abort();
    return this.start("check", draftId, person, (signal, onProgress) =>
      this.threads.run(
        { kind: "check", store: this.options.store, databaseUrl: this.options.databaseUrl, draftId },
        { signal, onProgress },
      ),
    );
  }

  /** Starts posting a draft at a version. Throws a problem when it is being posted already. */
  async post(draftId: number, version: number, person: string): Promise<number> {
    if ([...this.running.values()].some((job) => job.draftId === draftId && job.kind === "post"))
      throw new ProblemError("someone-posting", "This file is being posted already.");
    return this.start("post", draftId, person, (signal, onProgress, jobId) =>
      this.threads.run(
        {
          kind: "post",
          store: this.options.store,
          databaseUrl: this.options.databaseUrl,
          draftId,
          version,
          person,
          jobId,
        },
        { signal, onProgress },
      ),
    );
  }

  /** Breaks a job off, whichever server does it; a posting leaves nothing behind. Returns how it stands. */
  async cancel(id: number): Promise<Job> {
    const { knex } = this.options;
    const job = this.running.get(id);
    if (job) {
      job.abort.abort();
      await job.done;
      return readJob(knex, id);
    }
    await knex("job").where({ id, state: "running" }).update({ cancel_asked: true });
    const until = Date.now() + CANCEL_MS;
    for (;;) {
      const found = await readJob(knex, id);
      if (found.state !== "running" || Date.now() > until) return found;
      await wait(END_PAUSE_MS);
    }
  }

  /** Waits for a job to end, and tells how it did. */
  async finished(id: number): Promise<Job> {
    await this.running.get(id)?.done;
    return readJob(this.options.knex, id);
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.watch);
    for (const job of this.running.values()) job.abort.abort();
    await Promise.all([...this.running.values()].map((job) => job.done));
    await this.threads.close();
  }

  private async start(
    kind: Job["kind"],
    draftId: number,
    person: string,
    work: (signal: AbortSignal, onProgress: (progress: Progress) => void, jobId: number) => Promise<unknown>,
  ): Promise<number> {
    const { knex } = this.options;
    const draft = await readDraft(knex, draftId);
    const id = await insertJob(knex, { kind, draftId, fileName: draft.file.name, person });
    const abort = new AbortController();
    let latest: Progress = { rows: 0, share: 0 };
    const write = async () => {
      const [row]: { cancel_asked: boolean }[] = await knex("job")
        .where({ id, state: "running" })
        .update({ rows: latest.rows, share: latest.share, seen_at: knex.fn.now() })
        .returning("cancel_asked");
      if (row?.cancel_asked) abort.abort();
    };
    const beat = setInterval(() => void write().catch(() => {}), PROGRESS_MS);
    const done = work(abort.signal, (progress) => (latest = progress), id)
      .then(
        () => this.end(id, { state: "done", share: 1, rows: latest.rows }),
        (error: unknown) => {
          const problem = toProblem(error);
          if (problem.code === "internal")
            this.options.logger.error({ err: error, cause: problem.cause }, `${kind} failed`);
          return this.end(
            id,
            abort.signal.aborted
              ? { state: "cancelled", message: "It was cancelled; nothing was posted." }
              : { state: "failed", message: problem.message },
          );
        },
      )
      .finally(() => {
        clearInterval(beat);
        this.running.delete(id);
      });
    this.running.set(id, { draftId, kind, abort, done });
    return id;
  }

  /** Where the database is away for the moment, this is tried until it is back; the watch sees to the rest. */
  private async end(
    id: number,
    outcome: { state: Job["state"]; message?: string; share?: number; rows?: number },
  ): Promise<void> {
    for (let attempt = 0; attempt < END_ATTEMPTS && !this.isClosed; attempt += 1) {
      const isWritten = await this.options
        .knex("job")
        .where({ id, state: "running" })
        .update(outcome)
        .then(
          () => true,
          () => false,
        );
      if (isWritten) return;
      await wait(END_PAUSE_MS);
    }
  }
}
