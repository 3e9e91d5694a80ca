import { threadProgram } from "#server/thread-program.ts";
import { TaskProcesses } from "#server/work/task-processes.ts";
import type { Limits } from "../limits.ts";
import type { IntakeProcesses } from "./task.ts";

/** Processes that read files, so many at once, each within the memory that a reader may use. */
export function openProcesses(limits: Limits, most: number): IntakeProcesses {
  return new TaskProcesses(limits.readerMegabytes, { program: threadProgram("task-start.mjs", import.meta.url), most });
}
