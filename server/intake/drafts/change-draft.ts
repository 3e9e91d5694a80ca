import { rm } from "node:fs/promises";
import { isDeepStrictEqual } from "node:util";
import type { Knex } from "knex";
import type { Definition } from "#contract/intake.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Structure } from "#server/db/structure.ts";
import { filePath, type FileStore } from "../file-store.ts";
import { readTables } from "../lookup-tables.ts";
import { mappingView } from "../mapping-view.ts";
import { headTable, meaningsForSteps, proposeDefinition, type Proposing } from "./detect.ts";
import { readDraft, updateDraft } from "./draft-record.ts";
import { storeUsed, textHead } from "./open-draft.ts";
import { headOfSheets, type WorkbookHeads } from "./understand-workbook.ts";
import type { Detected } from "./draft.ts";

/**
 * Stores a person's change. A file that is now read otherwise is looked at anew, and
 * where that gives other columns, steps and meanings are proposed for them.
 */
export async function changeDraft(
  knex: Knex,
  structure: Structure,
  { store, workbookHeads }: { store: FileStore; workbookHeads: WorkbookHeads },
  { id, version, definition, intakeName }: { id: number; version: number; definition: Definition; intakeName: string },
): Promise<number> {
  const draft = await readDraft(knex, id);
  const was = draft.definition.reading;
  const is = definition.reading;
  const path = filePath(store, draft.file.id);
  const readWith = ({ encoding, delimiter, sheet, stack }: Definition["reading"]) => ({
    encoding,
    delimiter,
    sheet,
    ...(stack && stack.length > 0 ? { stack } : {}),
  });
  const readsOtherwise = JSON.stringify(readWith(was)) !== JSON.stringify(readWith(is));
  const view = mappingView(structure);
  const { head, further, tables } = !readsOtherwise
    ? { ...draft.detected, tables: [...draft.tables.values()] }
    : draft.detected.isWorkbook
      ? await headOfSheets(path, is, { view, workbookHeads })
      : { ...(await textHead(path, is, store.limits)), tables: [...draft.tables.values()] };
  const detected: Detected = { ...draft.detected, head, ...(further ? { further } : {}), readWith: readWith(is) };
  const before = headTable(draft.detected.head, was).columns;
  const after = headTable(head, is).columns;
  const sameColumns = before.length === after.length && before.every((name, i) => name === after[i]);
  const known = await readTables(knex, definition.rules.steps);
  const proposing = { view, fileName: draft.file.name, tables: [...draft.tables.values(), ...known.values()], further };
  const kept = sameColumns
    ? withMeanings(definition, { head, before: draft.definition, proposing })
    : proposeDefinition(head, is, { view, fileName: draft.file.name, tables, further });
  await storeUsed(knex, kept, { tables, person: draft.file.uploadedBy });
  return updateDraft(knex, id, version, { definition: kept, intakeName, detected });
}

/** A changed definition, with meanings for what changed steps bring. */
function withMeanings(
  definition: Definition,
  { head, before, proposing }: { head: readonly TidyRow[]; before: Definition; proposing: Proposing },
): Definition {
  if (isDeepStrictEqual(definition.rules.steps, before.rules.steps)) return definition;
  const mapping = meaningsForSteps(head, { before, after: definition }, proposing);
  return { ...definition, rules: { ...definition.rules, mapping } };
}

/** Throws a draft away with its file. */
export async function discardDraft(knex: Knex, store: FileStore, id: number): Promise<void> {
  const draft = await readDraft(knex, id);
  await knex.transaction(async (trx) => {
    await trx("draft").where({ id }).delete();
    await trx("file").where({ id: draft.file.id }).delete();
  });
  await rm(filePath(store, draft.file.id), { force: true });
}
