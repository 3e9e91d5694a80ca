import { rm } from "node:fs/promises";
import type { Knex } from "knex";
import type { Definition } from "#contract/intake.ts";
import type { Structure } from "#server/db/structure.ts";
import { filePath, type FileStore } from "../file-store.ts";
import { mappingView } from "../mapping-view.ts";
import { headTable, proposeDefinition } from "./detect.ts";
import { readDraft, updateDraft, type Detected } from "./draft-record.ts";
import { textHead, type WorkbookHead } from "./open-draft.ts";

/**
 * Stores a person's change. A file that is now read otherwise is looked at anew, and
 * where that gives other columns, steps and meanings are proposed for them.
 */
export async function changeDraft(
  knex: Knex,
  structure: Structure,
  { store, workbookHead }: { store: FileStore; workbookHead: WorkbookHead },
  { id, version, definition, intakeName }: { id: number; version: number; definition: Definition; intakeName: string },
): Promise<number> {
  const draft = await readDraft(knex, id);
  const was = draft.definition.reading;
  const is = definition.reading;
  const path = filePath(store, draft.file.id);
  const readsOtherwise = was.encoding !== is.encoding || was.delimiter !== is.delimiter || was.sheet !== is.sheet;
  const head = !readsOtherwise
    ? draft.detected.head
    : draft.detected.isWorkbook
      ? (await workbookHead(path, is.sheet)).head
      : await textHead(path, is, store.limits);
  const { encoding, delimiter, sheet } = is;
  const detected: Detected = { ...draft.detected, head, readWith: { encoding, delimiter, sheet } };
  const before = headTable(draft.detected.head, was).columns;
  const after = headTable(head, is).columns;
  const sameColumns = before.length === after.length && before.every((name, i) => name === after[i]);
  const kept = sameColumns
    ? definition
    : proposeDefinition(head, is, { view: mappingView(structure), fileName: draft.file.name });
  return updateDraft(knex, id, version, { definition: kept, intakeName, detected });
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
