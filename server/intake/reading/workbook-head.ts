import { NovelRows } from "#core/reading/novel-rows.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Limits } from "../limits.ts";
import { inspectWorkbook, readWorkbook, sheetsOf } from "./read-workbook.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** A workbook's sheet with its first rows. */
export interface SheetHead {
  readonly name: string;
  readonly isHidden: boolean;
  readonly rows: TidyRow[];
  /** Rows further below with texts that the first ones do not have. */
  readonly further: readonly TidyRow[];
  /** The number of its last row; `null` where it was not read so far. */
  readonly lastLine: number | null;
}

/** Which sheets of a workbook are looked at, and how many rows of each. */
export interface HeadRequest {
  /** By name; `null`: all of a small workbook, of a large one as many as it takes to find a table. */
  readonly sheets: readonly string[] | null;
  readonly most: number;
}

/** A sheet with fewer rows than this is a cover, not a table. */
const TABLE_ROWS = 3;
/** Up to so many unpacked bytes all sheets are looked at, to their ends. */
const SMALL_BYTES = 64 * 1_048_576;
const MOST_SHEETS = 60;

/** Whether a sheet's first rows may be a table. */
export function isTable({ rows }: Pick<SheetHead, "rows">): boolean {
  return rows.length >= TABLE_ROWS && rows.some((row) => row.cells.length > 1);
}

/** The sheets of a workbook with their first rows; those that were not looked at have none. Throws an `UnreadableFile`. */
export async function workbookHeads(path: string, { sheets, most }: HeadRequest, limits: Limits): Promise<SheetHead[]> {
  const bytes = await inspectWorkbook(path, limits);
  const entries = await sheetsOf(path);
  const heads: SheetHead[] = [];
  for (const { name, isHidden } of entries) {
    const isFound = sheets === null && bytes > SMALL_BYTES && heads.some(isTable);
    const isWanted = sheets === null ? heads.length < MOST_SHEETS && !isFound : sheets.includes(name);
    const head = isWanted
      ? await readHead(path, name, { limits, most, toEnd: bytes <= SMALL_BYTES })
      : { rows: [], further: [], lastLine: null };
    heads.push({ name, isHidden, ...head });
  }
  if (heads.length === 0) throw new UnreadableFile("The workbook has no sheet.");
  if (heads.every(({ rows }) => rows.length === 0))
    throw new UnreadableFile(
      sheets === null
        ? "The workbook has no rows on any sheet. Save it with its values and load it again."
        : `The workbook has no rows on ${sheets.map((name) => `“${name}”`).join(", ")}. Choose another sheet.`,
    );
  return heads;
}

async function readHead(
  path: string,
  sheet: string,
  { limits, most, toEnd }: { limits: Limits; most: number; toEnd: boolean },
): Promise<Pick<SheetHead, "rows" | "further" | "lastLine">> {
  const rows: TidyRow[] = [];
  let last = 0;
  let novel: NovelRows | undefined;
  for await (const batch of readWorkbook(path, { sheet, limits, size: 0 })) {
    const own = batch.rows.slice(0, most - rows.length);
    rows.push(...own);
    if (rows.length >= most) {
      novel ??= new NovelRows(rows);
      for (const row of batch.rows.slice(own.length)) novel.take(row);
    }
    last = batch.rows.at(-1)?.line ?? last;
    if (!toEnd && rows.length >= most) return { rows, further: novel?.rows() ?? [], lastLine: null };
  }
  return { rows, further: novel?.rows() ?? [], lastLine: last };
}
