import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Knex } from "knex";
import type { Client } from "pg";
import { from as copyFrom } from "pg-copy-streams";
import type { LoadResult } from "#core/checks/load-run.ts";
import type { LineFault, MappedFact } from "#core/mapping/map-rows.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import type { Report } from "#contract/intake.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { escapeCopy } from "../post-facts.ts";
import { filePath, type FileStore } from "../file-store.ts";
import { MOST_REJECTED, storableJson } from "./check-draft.ts";
import { headTable } from "./detect.ts";
import { passFile, type Progress } from "./run-file.ts";
import type { DraftRecord } from "./draft.ts";

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

/** Keeps the lines that were left out with their load, in one statement however many they are. */
export async function storeRejected(
  trx: Knex.Transaction,
  loadId: number,
  rejected: readonly LineFault[],
): Promise<void> {
  if (rejected.length === 0) return;
  const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
  const connection = await client.acquireConnection();
  const stream = connection.query(
    copyFrom('copy load_rejected (load_id, line, rule, "column", value, cells) from stdin'),
  );
  const lines = function* () {
    for (const { line, rule, column, value, cells } of rejected)
      yield `${[loadId, line, rule, column, value, arrayText(cells)].map((cell) => escapeCopy(String(cell))).join("\t")}\n`;
  };
  await pipeline(Readable.from(lines()), stream);
}

/** Texts as PostgreSQL writes an array of them. */
function arrayText(cells: readonly string[]): string {
  return `{${cells.map((cell) => `"${cell.replaceAll("\0", "").replace(/["\\]/g, "\\$&")}"`).join(",")}}`;
}
