import type { MappingView } from "#core/mapping/mapping-view.ts";
import type { Reading, StackedSheet } from "#core/reading/reading.ts";
import { MOST_LOOKUP_ROWS, type LookupTable } from "#core/tidy/lookup-table.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import { asTable } from "../lookup-tables.ts";
import { columnsOfSheet, headerOf, SheetStack } from "../reading/stack-sheets.ts";
import { isTable, type HeadRequest, type SheetHead } from "../reading/workbook-head.ts";
import { guessReading, headTable, HEAD_ROWS, profiles } from "./detect.ts";

/** Reads the first rows of a workbook's sheets; in a thread of its own, which a hostile file may bring down. */
export type WorkbookHeads = (path: string, request: HeadRequest) => Promise<SheetHead[]>;

/** What a workbook's sheets are for: the one that is read, those that stand under it, and those that say more about it. */
export interface SheetRoles {
  readonly sheet: SheetHead;
  /** Sheets with the same columns, the read one among them; empty where it is the only one. */
  readonly stack: readonly StackedSheet[];
  readonly others: readonly SheetHead[];
}

/** How a sheet of a workbook is read before anything else is known of it. */
export const workbookBase = (sheet: string) => ({ encoding: "utf-8", delimiter: ",", sheet }) as const;

/** Tells what a workbook's sheets are for: figures by period come before lists, what is seen before what is hidden. */
export function sheetRoles(heads: readonly SheetHead[], view: MappingView): SheetRoles {
  const filled = heads.filter(({ rows }) => rows.length > 0);
  const tables = filled.filter((head) => !head.isHidden && isTable(head));
  const candidates = tables.length > 0 ? tables : filled.some(isTable) ? filled.filter(isTable) : filled;
  const told = candidates.map((head) => ({ head, ...contentOf(head, view) }));
  const { head: sheet } = (told.find((one) => one.hasPeriod && one.hasNumbers) ??
    told.find((one) => one.hasNumbers) ??
    told[0])!;
  const own = named(columnsOfSheet(sheet.rows));
  const alike = tables.filter((head) => named(columnsOfSheet(head.rows)) === own && head.lastLine !== null);
  return {
    sheet: alike.length > 1 ? alike[0]! : sheet,
    stack: alike.length > 1 && alike.includes(sheet) ? stacked(alike) : [],
    others: tables.filter((head) => head !== sheet && !alike.includes(head)),
  };
}

/** The first rows of sheets that stand one under the other, some of each. */
export function stackedHead(heads: readonly SheetHead[], stack: readonly StackedSheet[], view: MappingView): TidyRow[] {
  const byName = new Map(heads.map((head) => [head.name, head]));
  const first = byName.get(stack[0]!.sheet)!;
  const header = guessReading(first.rows, workbookBase(first.name), view);
  const rows: TidyRow[] = [];
  const sheets = new SheetStack(header, (row) => void rows.push(row));
  const share = Math.max(25, Math.floor(HEAD_ROWS / stack.length));
  for (const sheet of stack) {
    const feed = sheets.begin(sheet);
    for (const row of byName.get(sheet.sheet)!.rows.slice(0, share)) feed.take(row);
    feed.end();
  }
  return rows;
}

/** The first rows of what a reading names of a workbook, with its other sheets as tables. */
export async function headOfSheets(
  path: string,
  { sheet, stack = [] }: Pick<Reading, "sheet" | "stack">,
  { view, workbookHeads }: { view: MappingView; workbookHeads: WorkbookHeads },
): Promise<{ head: readonly TidyRow[]; further: readonly TidyRow[]; tables: readonly LookupTable[] }> {
  const chosen = stack.length > 0 ? stack.map((one) => one.sheet) : [sheet ?? ""];
  const all = await workbookHeads(path, { sheets: null, most: HEAD_ROWS });
  const isRead = (name: string) => all.some((head) => head.name === name && head.rows.length > 0);
  const heads = chosen.every(isRead) ? all : await workbookHeads(path, { sheets: chosen, most: HEAD_ROWS });
  const others = all.filter((head) => !chosen.includes(head.name) && !head.isHidden && isTable(head));
  const own = heads.find(({ name }) => name === sheet);
  return {
    head: stack.length > 0 ? stackedHead(heads, stack, view) : (own?.rows ?? []),
    further: stack.length > 0 ? [] : (own?.further ?? []),
    tables: await sheetTables(path, others, workbookHeads),
  };
}

/** Sheets as tables that can be looked up in; those that are too long are none. */
export async function sheetTables(
  path: string,
  heads: readonly SheetHead[],
  workbookHeads: WorkbookHeads,
): Promise<LookupTable[]> {
  const tables: LookupTable[] = [];
  for (const head of heads) {
    const isWhole = head.rows.length < HEAD_ROWS;
    const [whole] = isWhole
      ? [head]
      : (await workbookHeads(path, { sheets: [head.name], most: MOST_LOOKUP_ROWS + 1 })).filter(
          ({ name }) => name === head.name,
        );
    if (whole && whole.rows.length <= MOST_LOOKUP_ROWS) tables.push(tableOf(head.name, whole.rows));
  }
  return tables;
}

/** Rows with their header as a table. */
export function tableOf(name: string, rows: readonly TidyRow[]): LookupTable {
  const { columns, rows: below } = headTable(rows, headerOf(rows));
  return asTable({ name, columns, rows: below.map((row) => columns.map((_, i) => (row.cells[i] ?? "").trim())) });
}

function stacked(heads: readonly SheetHead[]): StackedSheet[] {
  let before = 0;
  return heads.map(({ name, lastLine }) => {
    const sheet = { sheet: name, before };
    before += lastLine ?? 0;
    return sheet;
  });
}

function contentOf(head: SheetHead, view: MappingView): { hasPeriod: boolean; hasNumbers: boolean } {
  const reading = guessReading(head.rows, workbookBase(head.name), view);
  const table = headTable(head.rows, reading);
  const told = profiles(table, view);
  return {
    hasPeriod:
      told.some(({ type }) => type === "date") ||
      table.columns.some((name) => /\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec|q[1-4])[a-z]*\b/i.test(name)),
    hasNumbers: told.some(({ type }) => type === "number"),
  };
}

/** The columns of a table, whatever their order. */
function named(columns: readonly string[]): string {
  return JSON.stringify([...columns].sort());
}
