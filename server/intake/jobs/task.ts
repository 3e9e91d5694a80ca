import type { Progress } from "../drafts/run-file.ts";
import type { FileStore } from "../file-store.ts";
import type { HeadRequest, SheetHead } from "../reading/workbook-head.ts";
import type { TaskProcesses } from "#server/work/task-processes.ts";

/** Where a company's facts and files are, for a process of its own. */
export interface TaskPlace {
  readonly store: FileStore;
  readonly databaseUrl: string;
}

/** Work that is done beside the server's own process. */
export type Task =
  | { readonly kind: "head"; readonly store: FileStore; readonly path: string; readonly request: HeadRequest }
  | ({ readonly kind: "check"; readonly draftId: number } & TaskPlace)
  | ({
      readonly kind: "post";
      readonly company: string;
      readonly draftId: number;
      readonly version: number;
      readonly person: string;
      readonly jobId: number;
    } & TaskPlace)
  /** Writes the lines that a draft leaves out into a file. */
  | ({ readonly kind: "rejected"; readonly draftId: number; readonly to: string } & TaskPlace)
  /** Works out what a load that was posted means for what is looked at. */
  | ({ readonly kind: "follow-up"; readonly loadId: number } & TaskPlace);

/** What each kind of task gives. */
export interface TaskResults extends Record<Task["kind"], unknown> {
  readonly head: SheetHead[];
  readonly check: null;
  readonly post: { readonly loadId: number; readonly rows: number };
  readonly rejected: null;
  readonly "follow-up": null;
}

/** Processes for these tasks. */
export type IntakeProcesses = TaskProcesses<Task, TaskResults, Progress>;
