import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import writeWorkbook from "write-excel-file/node";
import { feedFiles, ledgerWorkbook } from "#demo/generate/feed.ts";

/** Writes the files that wait in the sample company's feed into a folder. Returns their names. */
export async function writeFeed(folder: string): Promise<string[]> {
  mkdirSync(folder, { recursive: true });
  const files = feedFiles();
  for (const { fileName, text } of files) writeFileSync(join(folder, fileName), text);
  const { fileName, sheetName, rows } = ledgerWorkbook();
  const cells = rows.map((row) => row.map((value) => (value === null ? null : { value })));
  await writeWorkbook(cells, { sheet: sheetName }).toFile(join(folder, fileName));
  return [...files.map((f) => f.fileName), fileName];
}
