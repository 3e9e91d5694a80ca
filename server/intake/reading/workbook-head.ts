import type { TidyRow } from "#core/tidy/row.ts";
import { HEAD_ROWS } from "../drafts/detect.ts";
import type { Limits } from "../limits.ts";
import { inspectWorkbook, readWorkbook, sheetNames } from "./read-workbook.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** A sheet with fewer rows than this is a cover, not a table. */
const TABLE_ROWS = 3;

/**
 * The first rows of a workbook's sheet, and the names of all. Without a wanted sheet it
 * is the first with a table on it.
 */
export async function workbookHead(
  path: string,
  wanted: string | null,
  limits: Limits,
): Promise<{ sheets: string[]; sheet: string; head: TidyRow[] }> {
  await inspectWorkbook(path, limits);
  const sheets = await sheetNames(path);
  let first: { sheet: string; head: TidyRow[] } | undefined;
  for (const sheet of wanted === null ? sheets : [wanted]) {
    const head: TidyRow[] = [];
    for await (const { rows } of readWorkbook(path, { sheet, limits, size: 0 })) {
      head.push(...rows.slice(0, HEAD_ROWS - head.length));
      if (head.length >= HEAD_ROWS) break;
    }
    const isTable = head.length >= TABLE_ROWS && head.some((row) => row.cells.length > 1);
    if (isTable || wanted !== null) return { sheets, sheet, head };
    first ??= { sheet, head };
  }
  if (!first || first.head.length === 0)
    throw new UnreadableFile("The workbook has no rows on any sheet. Save it with its values and load it again.");
  return { sheets, ...first };
}
