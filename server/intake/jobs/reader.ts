import { parentPort } from "node:worker_threads";
import { connect } from "#server/db/connect.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { checkDraft } from "../drafts/check-draft.ts";
import { postDraft } from "../drafts/post-draft.ts";
import { workbookHeads } from "../reading/workbook-head.ts";
import type { Task, TaskMessage, TaskResults } from "./task.ts";

/** Progress is told at most this often. */
const PROGRESS_MS = 200;

const port = parentPort!;
const tell = (message: TaskMessage) => port.postMessage(message);

port.on("message", (task: Task) => {
  let told = 0;
  const onProgress = (progress: { rows: number; share: number }) => {
    if (Date.now() - told < PROGRESS_MS) return;
    told = Date.now();
    tell({ say: "progress", progress });
  };
  run(task, onProgress).then(
    (result) => tell({ say: "done", result }),
    (error: unknown) => {
      const problem = toProblem(error);
      const stack = error instanceof Error ? (error.stack ?? error.message) : String(error);
      tell({ say: "failed", code: problem.code, detail: problem.message, stack });
    },
  );
});

async function run(
  task: Task,
  onProgress: (progress: { rows: number; share: number }) => void,
): Promise<TaskResults[keyof TaskResults]> {
  if (task.kind === "head") return workbookHeads(task.path, task.request, task.store.limits);
  const knex = connect(task.databaseUrl, { poolSize: 2 });
  try {
    if (task.kind === "post") return await postDraft(knex, task.store, { ...task, id: task.draftId }, onProgress);
    await checkDraft(knex, task.store, task.draftId, onProgress);
    return null;
  } finally {
    await knex.destroy();
  }
}
