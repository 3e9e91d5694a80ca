import type { TidyRow } from "#core/tidy/row.ts";
import type { ProblemCode } from "#contract/problem.ts";
import type { Progress } from "../drafts/run-file.ts";
import type { FileStore } from "../file-store.ts";

/** Work that is done beside the server's own thread. */
export type Task =
  | { readonly kind: "head"; readonly store: FileStore; readonly path: string; readonly sheet: string | null }
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
  readonly head: { readonly sheets: string[]; readonly sheet: string; readonly head: TidyRow[] };
  readonly check: null;
  readonly post: { readonly loadId: number; readonly rows: number };
}

/** What a thread says of its task. */
export type TaskMessage =
  | { readonly say: "progress"; readonly progress: Progress }
  | { readonly say: "done"; readonly result: TaskResults[keyof TaskResults] }
  | { readonly say: "failed"; readonly code: ProblemCode; readonly detail: string; readonly stack: string };
