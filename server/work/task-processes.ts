import { fileURLToPath } from "node:url";
import workerpool, { type Pool } from "workerpool";
import type { ProblemCode } from "#contract/problem.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Rows are short-lived: with room for many of them, few live long enough to be looked at by the collector. */
const YOUNG_MEGABYTES = 64;
/** Beyond so many that wait, whoever asks is told to come again. */
const MOST_WAITING = 50;

/** What a process says of a task that has ended. */
export type TaskOutcome<R> =
  | { readonly result: R }
  | { readonly code: ProblemCode; readonly detail: string; readonly stack: string };

/**
 * Processes that read files, post them and compute what takes long: few at once, kept warm, and each with a bound on its
 * memory, so that a hostile file ends its process and nothing else.
 */
export class TaskProcesses<
  Task extends { readonly kind: string },
  Results extends Record<Task["kind"], unknown>,
  News,
> {
  private readonly pool: Pool;

  constructor(
    private readonly megabytes: number,
    { program, most }: { program: string | URL; most: number },
  ) {
    this.pool = workerpool.pool(program instanceof URL ? fileURLToPath(program) : program, {
      workerType: "process",
      maxWorkers: most,
      maxQueueSize: MOST_WAITING,
      forkOpts: {
        execArgv: [`--max-old-space-size=${megabytes}`, `--max-semi-space-size=${YOUNG_MEGABYTES}`],
        stdio: ["ignore", "ignore", "ignore", "ipc"],
      },
    });
  }

  /**
   * Does a task; aborting ends its process at once, and with it its database connection and transaction. Throws a problem
   * that the task ended with.
   */
  async run<K extends Task["kind"]>(
    task: Extract<Task, { kind: K }>,
    { signal, onProgress }: { signal?: AbortSignal; onProgress?: (news: News) => void } = {},
  ): Promise<Results[K]> {
    if (signal?.aborted) throw cancelled();
    if (this.pool.stats().pendingTasks >= MOST_WAITING)
      throw new ProblemError("busy", "Many files are being read at the moment. Try again in a minute.");
    const running = this.pool.exec<(task: Task) => Promise<TaskOutcome<Results[K]>>>("run", [task], {
      on: (news: News) => onProgress?.(news),
    });
    const abort = () => void running.cancel();
    signal?.addEventListener("abort", abort, { once: true });
    try {
      const outcome = await running.then(
        (done) => done,
        (error: unknown) => {
          throw signal?.aborted ? cancelled() : lost(error, this.megabytes);
        },
      );
      if ("result" in outcome) return outcome.result;
      throw new ProblemError(outcome.code, outcome.detail, { cause: new Error(outcome.stack) });
    } finally {
      signal?.removeEventListener("abort", abort);
    }
  }

  /** Ends all processes. */
  async close(): Promise<void> {
    await this.pool.terminate(true);
  }
}

function cancelled(): ProblemError {
  return new ProblemError("invalid-request", "It was cancelled.");
}

/** A process that ended in the middle of its task, for want of memory or by a fault of its own. */
function lost(error: unknown, megabytes: number): ProblemError {
  const words = error instanceof Error ? error.message : String(error);
  if (/exitCode: `?(?:134|5)`?|signalCode: `?SIG(?:ABRT|TRAP|KILL)`?/.test(words))
    return new ProblemError(
      "unreadable-file",
      `Reading this file took more than ${megabytes} MB of memory and was stopped; nothing was posted. A workbook of this size is better saved as CSV.`,
      { cause: error },
    );
  return new ProblemError(
    "internal",
    "Reading stopped on an internal error. Nothing was posted; it is in the server's log.",
    { cause: error },
  );
}
