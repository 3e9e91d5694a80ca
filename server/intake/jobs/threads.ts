import { Worker } from "node:worker_threads";
import { threadProgram } from "#server/thread-program.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Progress } from "../drafts/run-file.ts";
import type { Task, TaskMessage, TaskResults } from "./task.ts";

/** Rows are short-lived: with room for many of them, few live long enough to be looked at by the collector. */
const YOUNG_MEGABYTES = 128;

/**
 * Threads that read files, so that large and hostile ones neither slow the server nor
 * bring it down: each has a bound on its memory. One is kept warm.
 */
export class Threads {
  private spare: Worker | undefined;
  private isClosed = false;
  private readonly busy = new Set<Worker>();

  constructor(private readonly megabytes: number) {
    this.spare = this.create();
  }

  /** Runs a task; aborting ends its thread at once, and with it its database connection and transaction. */
  async run<K extends Task["kind"]>(
    task: Extract<Task, { kind: K }>,
    { signal, onProgress }: { signal?: AbortSignal; onProgress?: (progress: Progress) => void } = {},
  ): Promise<TaskResults[K]> {
    const worker = this.spare ?? this.create();
    this.spare = undefined;
    this.busy.add(worker);
    let isSound = false;
    let letGo = () => {};
    try {
      const result = await new Promise<TaskResults[K]>((resolve, reject) => {
        const abort = () => reject(new ProblemError("invalid-request", "It was cancelled."));
        const onMessage = (message: TaskMessage) => {
          if (message.say === "progress") onProgress?.(message.progress);
          else if (message.say === "done") resolve(message.result as TaskResults[K]);
          else reject(new ProblemError(message.code, message.detail, { cause: new Error(message.stack) }));
        };
        const onError = (error: Error) => reject(lost(error, this.megabytes));
        const onExit = () => reject(new ProblemError("internal", "The reader stopped. Nothing was posted; try again."));
        // One by one: taking all listeners away would take Node's own with them, and the thread would be deaf.
        letGo = () => {
          signal?.removeEventListener("abort", abort);
          worker.off("message", onMessage).off("error", onError).off("exit", onExit);
        };
        signal?.addEventListener("abort", abort, { once: true });
        worker.on("message", onMessage).on("error", onError).on("exit", onExit);
        if (signal?.aborted) abort();
        else worker.postMessage(task);
      });
      isSound = true;
      return result;
    } finally {
      letGo();
      this.busy.delete(worker);
      // A thread that did its work well is the warmest there is.
      if (isSound && !this.spare && !this.isClosed) this.spare = worker;
      else {
        void worker.terminate();
        if (!this.isClosed) this.spare ??= this.create();
      }
    }
  }

  /** Ends all threads. */
  async close(): Promise<void> {
    this.isClosed = true;
    await Promise.all([...this.busy, ...(this.spare ? [this.spare] : [])].map((worker) => worker.terminate()));
  }

  private create(): Worker {
    const worker = new Worker(threadProgram("reader-start.mjs", import.meta.url), {
      resourceLimits: { maxOldGenerationSizeMb: this.megabytes, maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
      execArgv: [],
    });
    worker.unref();
    worker.on("error", () => {
      if (this.spare === worker) this.spare = undefined;
    });
    return worker;
  }
}

function lost(error: Error, megabytes: number): ProblemError {
  if ((error as NodeJS.ErrnoException).code === "ERR_WORKER_OUT_OF_MEMORY") {
    return new ProblemError(
      "unreadable-file",
      `Reading this file took more than ${megabytes} MB of memory and was stopped; nothing was posted. A workbook of this size is better saved as CSV.`,
      { cause: error },
    );
  }
  return new ProblemError(
    "internal",
    "The reader stopped on a fault of its own. Nothing was posted; it is in the server's log.",
    { cause: error },
  );
}
