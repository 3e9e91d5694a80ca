import { open } from "node:fs/promises";
import { detectNature, UTF_32, type FileNature } from "#core/reading/detect-encoding.ts";
import type { Reading, StackedSheet } from "#core/reading/reading.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Limits } from "../limits.ts";
import { readText, type RowBatch } from "./read-text.ts";
import { SheetStack } from "./stack-sheets.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** Bytes looked at to tell what a file is and to show its first rows. */
export const HEAD_BYTES = 262_144;

/** The first bytes of a file. */
export async function readHead(path: string): Promise<Buffer> {
  const file = await open(path, "r");
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** What a file is; throws an `UnreadableFile` for what is neither text nor workbook. */
export function requireTable(head: Uint8Array, fileName: string): Exclude<FileNature, { kind: "empty" | "binary" }> {
  const nature = detectNature(head);
  if (nature.kind === "empty")
    throw new UnreadableFile(`${fileName} is empty. Export it once more and load that file.`);
  if (nature.kind === "binary") {
    const wayOut =
      nature.what === UTF_32
        ? ", which is not read. Save it in UTF-8 and load that file."
        : ", whatever its name says. Hackle reads CSV and other delimited text, and XLSX workbooks; save it as one of them.";
    throw new UnreadableFile(`${fileName} is ${nature.what}${wayOut}`);
  }
  return nature;
}

/** Reads a table in batches, whatever its kind. Workbooks are inspected first. */
export async function* readFile(
  path: string,
  reading: Reading,
  { limits, size }: { limits: Limits; size: number },
): AsyncGenerator<RowBatch> {
  if (reading.sheet === null) yield* readText(path, { ...reading, limits });
  else {
    const { inspectWorkbook, readWorkbook } = await import("./read-workbook.ts");
    await inspectWorkbook(path, limits);
    const { stack = [] } = reading;
    if (stack.length > 0)
      yield* readStack(stack, { reading, read: (sheet) => readWorkbook(path, { sheet, limits, size }), size });
    else yield* readWorkbook(path, { sheet: reading.sheet, limits, size });
  }
}

/** Reads sheets one under the other. */
async function* readStack(
  stack: readonly StackedSheet[],
  { reading, read, size }: { reading: Reading; read: (sheet: string) => AsyncGenerator<RowBatch>; size: number },
): AsyncGenerator<RowBatch> {
  const rows: TidyRow[] = [];
  const sheets = new SheetStack(reading, (row) => void rows.push(row));
  for (const [i, sheet] of stack.entries()) {
    const feed = sheets.begin(sheet);
    for await (const batch of read(sheet.sheet)) {
      for (const row of batch.rows) feed.take(row);
      yield { rows: rows.splice(0), bytes: Math.round((size * i) / stack.length + batch.bytes / stack.length) };
    }
    feed.end();
  }
  yield { rows: rows.splice(0), bytes: size };
}
