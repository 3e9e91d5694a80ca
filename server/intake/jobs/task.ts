import type { ProblemCode } from "#contract/problem.ts";
import type { Progress } from "../drafts/run-file.ts";
import type { FileStore } from "../file-store.ts";
import type { HeadRequest, SheetHead } from "../reading/workbook-head.ts";

/** Work that is done beside the server's own thread. */
export type Task =
  | { readonly kind: "head"; readonly store: FileStore; readonly path: string; readonly request: HeadRequest }
  | { readonly kind: "check"; readonly store: FileStore; readonly databaseUrl: string; readonly draftId: number }
  | {
      readonly kind: "post";
      readonly store: FileStore;
      readonly databaseUrl: string;
      readonly draftId: number;
      readonly version: number;
      readonly person: string;
      readonly jobId: number;
    };

/** What each kind of task gives. */
export interface TaskResults {
  readonly head: SheetHead[];
  readonly check: null;
  readonly post: { readonly loadId: number; readonly rows: number };
}

/** What a thread says of its task. */
export type TaskMessage =
  | { readonly say: "progress"; readonly progress: Progress }
  | { readonly say: "done"; readonly result: TaskResults[keyof TaskResults] }
  | { readonly say: "failed"; readonly code: ProblemCode; readonly detail: string; readonly stack: string };
