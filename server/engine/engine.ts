import { readlinkSync } from "node:fs";
import { constants, setPriority } from "node:os";
import { parentPort, workerData } from "node:worker_threads";
import { buildStructure, type Structure } from "#server/db/structure.ts";
import { confineBook } from "#server/facts/confine-source.ts";
import type { StructureRows } from "#server/db/structure-rows.ts";
import type { KeptFacts } from "#server/facts/memory/cell-keeper.ts";
import { bookOn } from "#server/facts/memory/memory-book.ts";
import type { CellBook } from "#core/cube/cell-book.ts";
import { answerPanels } from "./answer-panels.ts";
import { FitStore } from "./fit-store.ts";
import { BESIDE, UP, type EngineSays, type EngineTask } from "./engine-message.ts";

/** The program of a thread that answers questions from facts in shared memory, one after the other. */
const port = parentPort!;
const held = new Map<number, { readonly structure: Structure; readonly kept: KeptFacts; readonly book: CellBook }>();
const waiting = new Set<number>();
const fits = new FitStore();
let work = Promise.resolve();
if (workerData === BESIDE) comeSecond();
port.postMessage({ question: UP } satisfies EngineSays);

port.on("message", (task: EngineTask) => {
  switch (task.say) {
    case "hold": {
      const before = task.onTopOf === null ? undefined : held.get(task.onTopOf);
      const rows = { ...before?.structure.rows, ...task.rows } as StructureRows;
      const structure = buildStructure(rows, task.at, before?.structure);
      const kept = (task.kept ?? before?.kept)!;
      held.set(task.state, { structure, kept, book: bookOn(before, structure, kept) });
      break;
    }
    case "let go":
      held.delete(task.state);
      break;
    case "take":
      fits.take(task.fits);
      break;
    case "give up":
      waiting.delete(task.question);
      break;
    case "answer": {
      // What is let go later is still at hand for what was asked before.
      const { structure, book } = held.get(task.state)!;
      waiting.add(task.question);
      work = work.then(() => answer(task, structure, book));
    }
  }
});

/** What takes long leaves the processors to what is quick; where threads have no priority of their own, it does not. */
function comeSecond(): void {
  try {
    // "812/task/815": the thread that reads it.
    const thread = Number(readlinkSync("/proc/thread-self").split("/").at(-1));
    setPriority(thread, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // It is only slower for others then.
  }
}

async function answer(
  { question, reader, asks, isLight }: Extract<EngineTask, { say: "answer" }>,
  structure: Structure,
  book: CellBook,
): Promise<void> {
  if (!waiting.has(question)) return;
  const source = {
    book: confineBook(book, structure.dimensions, reader.scope),
    pages: () => Promise.reject(new Error("An engine reads memory and nothing else.")),
  };
  // Between panels others are let through, so that it is heard here when nobody waits any more.
  fits.onDeferred = isLight ? () => {} : undefined;
  for await (const line of answerPanels({ structure, source, reader }, asks, fits)) {
    if (!waiting.has(question)) return;
    port.postMessage({ question, line, fits: fits.takeMade() } satisfies EngineSays);
  }
  waiting.delete(question);
  port.postMessage({ question } satisfies EngineSays);
}
