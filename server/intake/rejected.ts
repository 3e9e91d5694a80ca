import type { Knex } from "knex";
import { RULE_NAMES, type CheckRule } from "#core/checks/finding.ts";
import { csvRow } from "#server/csv/csv-row.ts";
import { readStructure } from "#server/db/structure.ts";
import { refuseIncomplete } from "./drafts/check-draft.ts";
import { finalColumns, headTable } from "./drafts/detect.ts";
import { readDraft } from "./drafts/draft-record.ts";
import { passFile } from "./drafts/run-file.ts";
import { filePath, type FileStore } from "./file-store.ts";
import { readRates } from "#server/facts/currency-rates.ts";
import { mappingView } from "./mapping-view.ts";

/** The lines a draft would leave out, as CSV: line, reason, column, value, and the line's own cells. */
export async function* rejectedOfDraft(knex: Knex, store: FileStore, id: number): AsyncGenerator<string> {
  const draft = await readDraft(knex, id);
  const structure = await readStructure(knex);
  refuseIncomplete(draft, structure);
  const view = mappingView(structure, await readRates(knex));
  const { columns } = headTable(draft.detected.head, draft.definition.reading);
  yield csvRow(["Line", "Reason", "Column", "Value", ...finalColumns(columns, draft, view)]);
  for await (const { faults } of passFile({
    path: filePath(store, draft.file.id),
    size: draft.file.size,
    definition: draft.definition,
    view,
    tables: draft.tables,
    limits: store.limits,
    purpose: "check",
  })) {
    for (const fault of faults)
      yield csvRow([fault.line, RULE_NAMES[fault.rule], fault.column, fault.value, ...fault.cells]);
  }
}

/** The lines a load left out, as CSV. */
export async function* rejectedOfLoad(knex: Knex, id: number): AsyncGenerator<string> {
  const rows: { line: number; rule: CheckRule; column: string; value: string; cells: string[] }[] = await knex(
    "load_rejected",
  )
    .where({ load_id: id })
    .orderBy("line")
    .select("line", "rule", "column", "value", "cells");
  const width = Math.max(0, ...rows.map((row) => row.cells.length));
  yield csvRow(["Line", "Reason", "Column", "Value", ...Array.from({ length: width }, (_, i) => `Cell ${i + 1}`)]);
  for (const row of rows) yield csvRow([row.line, RULE_NAMES[row.rule], row.column, row.value, ...row.cells]);
}
