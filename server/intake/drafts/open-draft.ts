import type { Knex } from "knex";
import { NovelRows } from "#core/reading/novel-rows.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { MappingView } from "#core/mapping/mapping-view.ts";
import type { Reading } from "#core/reading/reading.ts";
import type { LookupTable } from "#core/tidy/lookup-table.ts";
import { titleOf } from "#core/mapping/file-title.ts";
import { definitionSchema, type Definition } from "#contract/intake.ts";
import type { Structure } from "#server/db/structure.ts";
import type { StoredFile } from "../file-store.ts";
import type { Limits } from "../limits.ts";
import { mappingView } from "../mapping-view.ts";
import { readHead, requireTable } from "../reading/read-file.ts";
import { readText } from "../reading/read-text.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";
import {
  turnedColumns,
  guessDelimiter,
  guessReading,
  headTable,
  HEAD_ROWS,
  proposeDefinition,
  renewDefinition,
} from "./detect.ts";
import { insertDraft } from "./draft-record.ts";
import { sheetRoles, sheetTables, stackedHead, workbookBase, type WorkbookHeads } from "./understand-workbook.ts";
import { storeTable } from "../lookup-tables.ts";
import type { Detected } from "./draft.ts";

/**
 * Opens a stored file as a draft: finds out how it is to be read, what its columns mean,
 * and whether it is of a kind that was loaded before. Returns the draft's number.
 */
export async function openDraft(
  knex: Knex,
  structure: Structure,
  file: StoredFile,
  { limits, workbookHeads, intakeId }: { limits: Limits; workbookHeads: WorkbookHeads; intakeId?: number },
): Promise<number> {
  const view = mappingView(structure);
  const { detected, reading, tables } = await detectFile(file, { view, limits, workbookHeads });
  const { columns } = headTable(detected.head, reading);
  const proposing = { view, fileName: file.name, tables, further: detected.further };
  const proposed = proposeDefinition(detected.head, reading, proposing);
  const known = await findIntake(knex, { columns, turned: columnsTurned(proposed) }, intakeId);
  const definition = known ? renewDefinition(known.definition, detected.head, reading, proposing) : proposed;
  await storeUsed(knex, definition, { tables, person: file.uploadedBy });
  return insertDraft(knex, {
    fileId: file.id,
    intakeId: known?.id ?? null,
    intakeName: known?.name ?? (await freeIntakeName(knex, file.name)),
    definition,
    detected,
  });
}

/** Finds out what a file is and how it is read: its first rows, and its other sheets as tables. Throws an `UnreadableFile`. */
export async function detectFile(
  file: Pick<StoredFile, "path" | "name">,
  { view, limits, workbookHeads }: { view: MappingView; limits: Limits; workbookHeads: WorkbookHeads },
): Promise<{ detected: Detected; reading: Reading; tables: readonly LookupTable[] }> {
  const bytes = await readHead(file.path);
  const nature = requireTable(bytes, file.name);
  let detected: Detected;
  let base: ReadWith;
  let tables: readonly LookupTable[] = [];
  if (nature.kind === "workbook") {
    const heads = await workbookHeads(file.path, { sheets: null, most: HEAD_ROWS });
    const { sheet, stack, others } = sheetRoles(heads, view);
    base = { ...workbookBase(sheet.name), ...(stack.length > 0 ? { stack } : {}) };
    detected = {
      isWorkbook: true,
      sheets: heads.map(({ name }) => name),
      hidden: heads.filter(({ isHidden }) => isHidden).map(({ name }) => name),
      stackable: stack,
      head: stack.length > 0 ? stackedHead(heads, stack, view) : sheet.rows,
      further: stack.length > 0 ? [] : sheet.further,
      readWith: base,
    };
    tables = await sheetTables(file.path, others, workbookHeads);
  } else {
    base = { encoding: nature.encoding, delimiter: guessDelimiter(bytes, nature.encoding), sheet: null };
    detected = { isWorkbook: false, sheets: [], ...(await textHead(file.path, base, limits)), readWith: base };
  }
  const reading = guessReading(detected.head, base, view);
  return { detected, reading, tables };
}

/** Keeps those tables that the steps look up in. */
export async function storeUsed(
  knex: Knex,
  { rules }: Definition,
  { tables, person }: { tables: readonly LookupTable[]; person: string },
): Promise<void> {
  for (const table of tables)
    if (rules.steps.some((step) => step.kind === "look-up" && step.table === table.key))
      await storeTable(knex, table, person);
}

type ReadWith = Pick<Reading, "encoding" | "delimiter" | "sheet" | "stack">;

/** How far into a text file its first row is looked for. */
const BLANK_BYTES = 1_048_576;

/** Rows of a text that are looked through for texts that the first ones do not have. */
const ROWS_LOOKED_THROUGH = 100_000;

/**
 * The first rows of a text file, and those further below that say something new. Throws an `UnreadableFile` where nothing
 * but empty lines stands in its first megabyte.
 */
export async function textHead(
  path: string,
  reading: Pick<Definition["reading"], "encoding" | "delimiter">,
  limits: Limits,
): Promise<{ head: readonly TidyRow[]; further: readonly TidyRow[] }> {
  const head: TidyRow[] = [];
  let novel: NovelRows | undefined;
  let count = 0;
  try {
    for await (const { rows, bytes } of readText(path, { ...reading, limits })) {
      const own = rows.slice(0, HEAD_ROWS - head.length);
      head.push(...own);
      count += rows.length;
      if (head.length >= HEAD_ROWS) {
        novel ??= new NovelRows(head);
        for (const row of rows.slice(own.length)) novel.take(row);
        if (count >= ROWS_LOOKED_THROUGH || !novel.isOpen) break;
      }
      if (head.length === 0 && bytes >= BLANK_BYTES)
        throw new UnreadableFile(
          "The file's first megabyte holds nothing but empty lines. Take them out, or export the file once more, and load it again.",
        );
    }
  } catch (error) {
    // What is wrong further below is said by the check, with its line.
    if (head.length < HEAD_ROWS) throw error;
  }
  return { head, further: novel?.rows() ?? [] };
}

function columnsTurned({ rules }: Definition): ReadonlySet<string> {
  return new Set(rules.steps.flatMap(turnedColumns));
}

interface KnownIntake {
  readonly id: number;
  readonly name: string;
  readonly definition: Definition;
}

/** The intake for files with these columns, or the one asked for. Month columns that moved on do not count. */
async function findIntake(
  knex: Knex,
  { columns, turned: turnedHere }: { readonly columns: readonly string[]; readonly turned: ReadonlySet<string> },
  intakeId?: number,
): Promise<KnownIntake | undefined> {
  const rows: { id: number; name: string; columns: string[]; definition: unknown }[] = await knex("intake")
    .orderBy("updated_at", "desc")
    .select("id", "name", "columns", "definition");
  const here = new Set(columns);
  for (const r of rows) {
    if (intakeId !== undefined && r.id !== intakeId) continue;
    // One that an other version stored and this one cannot read is as good as none: the file is understood anew.
    const definition = definitionSchema.safeParse(r.definition);
    if (!definition.success) continue;
    const found = { id: r.id, name: r.name, definition: definition.data };
    if (intakeId !== undefined) return found;
    const turned = columnsTurned(definition.data);
    const fixed = new Set(r.columns.filter((name) => !turned.has(name)));
    if (fixed.size === 0 || ![...fixed].every((name) => here.has(name))) continue;
    // Months laid out as columns move on; every other column is the same, or it is another kind of file.
    const others = columns.filter((name) => !fixed.has(name));
    const areTurned = others.length > 0 && others.every((name) => turned.has(name) || turnedHere.has(name));
    if (turned.size > 0 ? areTurned : others.length === 0) return found;
  }
  return undefined;
}

/** "November ledger" is of the kind "Ledger": months and numbers are not part of a kind's name. */
async function freeIntakeName(knex: Knex, fileName: string): Promise<string> {
  const months = /\b(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\b|\b\d+\b|\bfy\d*\b/gi;
  const bare = titleOf(fileName).replace(months, "").replace(/\s+/g, " ").trim() || "Files";
  const title = bare[0]!.toUpperCase() + bare.slice(1);
  const taken = new Set<string>(await knex("intake").pluck("name"));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? title : `${title} ${n}`;
    if (!taken.has(name)) return name;
  }
}
