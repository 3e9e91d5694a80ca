import { rm } from "node:fs/promises";
import type { Readable } from "node:stream";
import type { Knex } from "knex";
import type { BroughtTable } from "#contract/intake.ts";
import { titleOf } from "#core/mapping/file-title.ts";
import { proposeLookUp } from "#core/mapping/propose-look-ups.ts";
import { MOST_LOOKUP_ROWS, type LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import { tidyTable } from "#core/tidy/tidy-run.ts";
import type { Structure } from "#server/db/structure.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";
import { filePath, storeFile, type FileStore } from "../file-store.ts";
import { storeTable } from "../lookup-tables.ts";
import { mappingView } from "../mapping-view.ts";
import { readHead, requireTable } from "../reading/read-file.ts";
import { readText } from "../reading/read-text.ts";
import { isTable } from "../reading/workbook-head.ts";
import { guessDelimiter, headTable, tidyContext } from "./detect.ts";
import { readDraft } from "./draft-record.ts";
import { tableOf, type WorkbookHeads } from "./understand-workbook.ts";
import type { DraftRecord } from "./draft.ts";

interface Bringing {
  readonly store: FileStore;
  readonly workbookHeads: WorkbookHeads;
  readonly person: string;
}

/** Keeps a file of its own as a table that a draft can look up in, with the look-up that fits. */
export async function bringTableFile(
  knex: Knex,
  structure: Structure,
  { store, workbookHeads, person }: Bringing,
  { id, stream, name }: { id: number; stream: Readable; name: string },
): Promise<BroughtTable> {
  const draft = await readDraft(knex, id);
  const file = await storeFile(knex, store, { stream, name, person });
  try {
    const rows = await tableRows(file.path, { store, name, workbookHeads });
    return await keep(knex, structure, { draft, table: tableOf(titleOf(name), rows), person });
  } finally {
    // What is looked up in is kept as a table; the file has done its work.
    await knex("file").where({ id: file.id }).delete();
    await rm(file.path, { force: true });
  }
}

/** Keeps another sheet of a draft's own workbook as a table, with the look-up that fits. */
export async function bringTableSheet(
  knex: Knex,
  structure: Structure,
  { store, workbookHeads, person }: Bringing,
  { id, sheet }: { id: number; sheet: string },
): Promise<BroughtTable> {
  const draft = await readDraft(knex, id);
  const heads = await workbookHeads(filePath(store, draft.file.id), { sheets: [sheet], most: MOST_LOOKUP_ROWS + 1 });
  const rows = heads.find(({ name }) => name === sheet)?.rows ?? [];
  return keep(knex, structure, { draft, table: tableOf(sheet, shortEnough(rows, sheet)), person });
}

async function keep(
  knex: Knex,
  structure: Structure,
  { draft, table, person }: { draft: DraftRecord; table: LookupTable; person: string },
): Promise<BroughtTable> {
  if (table.columns.length < 2 || table.rows.length === 0)
    throw new UnreadableFile(
      `${table.name} has ${table.columns.length < 2 ? "one column only" : "no rows below its header"}: a table to look up in has what is looked for in one column and what it stands for in another.`,
    );
  await storeTable(knex, table, person);
  const view = mappingView(structure);
  const { columns, rows } = headTable(draft.detected.head, draft.definition.reading);
  const steps = draft.definition.rules.steps.filter(({ kind }) => kind !== "look-up");
  const tidied = safely(() => tidyTable(steps, { columns, rows }, tidyContext(draft, view)).table) ?? { columns, rows };
  const proposed = proposeLookUp({ columns: tidied.columns, rows: tidied.rows.map((row) => row.cells) }, table);
  return {
    table: { key: table.key, name: table.name, columns: [...table.columns], rows: table.rows.length },
    proposed: proposed ?? null,
  };
}

async function tableRows(
  path: string,
  { store, name, workbookHeads }: Pick<Bringing, "store" | "workbookHeads"> & { name: string },
): Promise<readonly TidyRow[]> {
  const bytes = await readHead(path);
  const nature = requireTable(bytes, name);
  if (nature.kind === "workbook") {
    const heads = await workbookHeads(path, { sheets: null, most: MOST_LOOKUP_ROWS + 1 });
    return shortEnough((heads.find(isTable) ?? heads[0])!.rows, name);
  }
  const reading = { encoding: nature.encoding, delimiter: guessDelimiter(bytes, nature.encoding) };
  const rows: TidyRow[] = [];
  for await (const batch of readText(path, { ...reading, limits: store.limits })) {
    rows.push(...batch.rows);
    if (rows.length > MOST_LOOKUP_ROWS) break;
  }
  return shortEnough(rows, name);
}

function shortEnough(rows: readonly TidyRow[], name: string): readonly TidyRow[] {
  if (rows.length > MOST_LOOKUP_ROWS)
    throw new UnreadableFile(
      `${name} has more than ${MOST_LOOKUP_ROWS.toLocaleString("en-GB")} rows, which is more than a table to look up in may have. Keep those that the file names.`,
    );
  return rows;
}

/** What work gives; nothing where steps do not run on these columns. */
function safely<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch {
    return undefined;
  }
}
