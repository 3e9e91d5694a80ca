import { createWriteStream } from "node:fs";
import { constants, setPriority } from "node:os";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import workerpool from "workerpool";
import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import type { TaskOutcome } from "#server/work/task-processes.ts";
import { checkDraft } from "../drafts/check-draft.ts";
import { postDraft } from "../drafts/post-draft.ts";
import type { Progress } from "../drafts/run-file.ts";
import { followUp } from "../loads/follow-up.ts";
import { workbookHeads } from "../reading/workbook-head.ts";
import { rejectedOfDraft } from "../rejected.ts";
import type { Task, TaskResults } from "./task.ts";

/** Progress is told at most this often. */
const PROGRESS_MS = 200;

type Result = TaskResults[Task["kind"]];

// Nobody is there to be told any more: the server died, and this goes too.
process.on("error", () => process.exit(1));

workerpool.worker({
  run: async (task: Task): Promise<TaskOutcome<Result>> => {
    let told = 0;
    const onProgress = (progress: Progress) => {
      if (Date.now() - told < PROGRESS_MS) return;
      told = Date.now();
      workerpool.workerEmit(progress);
    };
    try {
      return { result: await carryOut(task, onProgress) };
    } catch (error) {
      const problem = toProblem(error);
      const stack = error instanceof Error ? (error.stack ?? error.message) : String(error);
      return { code: problem.code, detail: problem.message, stack };
    }
  },
});

/** What goes on beside the requests. */
const BESIDE: ReadonlySet<Task["kind"]> = new Set(["check", "post", "follow-up"]);

/** Whoever reads a page meanwhile comes first where there are few processors. */
function comeSecond(): void {
  try {
    setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // A process that was started with less may not be given more.
  }
}

async function carryOut(task: Task, onProgress: (progress: Progress) => void): Promise<Result> {
  if (BESIDE.has(task.kind)) comeSecond();
  if (task.kind === "head") return workbookHeads(task.path, task.request, task.store.limits);
  // It comes second on the processors: on a machine that is busy a connection takes its time, and nothing is lost by waiting.
  const knex = connect(task.databaseUrl, { poolSize: 2 });
  try {
    return await withDatabase(knex, task, onProgress);
  } finally {
    await knex.destroy();
  }
}

async function withDatabase(
  knex: Knex,
  task: Exclude<Task, { kind: "head" }>,
  onProgress: (progress: Progress) => void,
): Promise<Result> {
  switch (task.kind) {
    case "post":
      return postDraft(knex, task.store, { ...task, id: task.draftId }, onProgress);
    case "check":
      await checkDraft(knex, task.store, task.draftId, onProgress);
      return null;
    case "rejected":
      await pipeline(Readable.from(rejectedOfDraft(knex, task.store, task.draftId)), createWriteStream(task.to));
      return null;
    case "follow-up":
      await followUp(knex, task.loadId);
      return null;
  }
}
