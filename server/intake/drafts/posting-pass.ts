import type { Knex } from "knex";
import type { LoadResult } from "#core/checks/load-run.ts";
import type { LineFault, MappedFact } from "#core/mapping/map-rows.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import type { Report } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { filePath, type FileStore } from "../file-store.ts";
import { MOST_REJECTED, storableJson } from "./check-draft.ts";
import { headTable } from "./detect.ts";
import type { DraftRecord } from "./draft-record.ts";
import { passFile, type Progress } from "./run-file.ts";

/** What postings of facts and of rates have in common: the pass over the file, and what is kept of it. */
export interface PostingPass {
  readonly rejected: LineFault[];
  readonly outcome: { result?: LoadResult };
  readonly onProgress: (progress: Progress) => void;
}

/** What a draft's file gives, batch by batch; the lines left out and the result are put into the pass. */
export async function* postedBatches(
  store: FileStore,
  draft: DraftRecord,
  view: MappingView,
  { rejected, outcome, onProgress }: PostingPass,
): AsyncGenerator<readonly MappedFact[]> {
  const pass = passFile({
    path: filePath(store, draft.file.id),
    size: draft.file.size,
    definition: draft.definition,
    view,
    tables: draft.tables,
    limits: store.limits,
    purpose: "post",
    onProgress,
  });
  let step = await pass.next();
  while (!step.done) {
    for (const fault of step.value.faults) if (rejected.length < MOST_REJECTED) rejected.push(fault);
    yield step.value.facts;
    step = await pass.next();
  }
  outcome.result = step.value;
}

/** Throws a problem where the file gives something else now than when it was checked. */
export function requireSame(result: LoadResult, report: Report): void {
  if (result.facts === report.facts && result.amountInFacts === report.amountInFacts) return;
  throw new ProblemError(
    "changed-meanwhile",
    `The file gives ${result.facts.toLocaleString("en-GB")} amounts now and gave ${report.facts.toLocaleString("en-GB")} when it was checked: the structure was changed meanwhile. Nothing was posted; look at the new check and post again.`,
  );
}

/** What of a check is kept with the load. */
export function keptReport({ findings, amountInFile, amountInFacts }: Report): string {
  return storableJson({ findings, amountInFile, amountInFacts });
}

/** Remembers how the file was brought in, for the next one of its kind. Returns the intake's number. */
export async function rememberIntake(trx: Knex.Transaction, draft: DraftRecord, person: string): Promise<number> {
  const row = {
    name: draft.intakeName,
    dataset: draft.definition.rules.mapping.dataset,
    columns: [...headTable(draft.detected.head, draft.definition.reading).columns],
    definition: JSON.stringify(draft.definition),
    updated_at: new Date(),
    updated_by: person,
  };
  const [stored]: { id: number }[] = await trx("intake").insert(row).onConflict("name").merge().returning("id");
  return stored!.id;
}

/** Keeps the lines that were left out with their load. */
export async function storeRejected(
  trx: Knex.Transaction,
  loadId: number,
  rejected: readonly LineFault[],
): Promise<void> {
  const clean = (text: string) => text.replaceAll("\0", "");
  await trx.batchInsert(
    "load_rejected",
    rejected.map((fault) => ({
      load_id: loadId,
      line: fault.line,
      rule: fault.rule,
      column: clean(fault.column),
      value: clean(fault.value),
      cells: fault.cells.map(clean),
    })),
    500,
  );
}
