import type { TidyRow } from "#core/tidy/row.ts";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import ExcelJS from "exceljs";
import yauzl from "yauzl";
import type { Limits } from "../limits.ts";
import type { RowBatch } from "./read-text.ts";
import { standardWorkbook, type SheetEntry, type StandardWorkbook } from "./standard-workbook.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

const BATCH_ROWS = 2000;
/** A packed part may unpack to at most this many times its size before it is taken for an attack. */
const MOST_RATIO = 200;
const SMALL_PART = 10 * 1_048_576;

/**
 * Unpacks a workbook once without keeping anything, so that what is too large is told
 * before a reader meets it. Returns the bytes unpacked. Throws an `UnreadableFile`.
 */
export async function inspectWorkbook(path: string, limits: Limits): Promise<number> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, file) =>
      error ? reject(damaged(error)) : resolve(file),
    );
  });
  let unpacked = 0;
  try {
    await new Promise<void>((resolve, reject) => {
      zip.on("error", (error: Error) => reject(damaged(error)));
      zip.on("end", resolve);
      zip.on("entry", (entry: yauzl.Entry) => {
        if (entry.isEncrypted())
          return reject(
            new UnreadableFile("The workbook is protected by a password. Save it without one and load it again."),
          );
        zip.openReadStream(entry, (error, stream) => {
          if (error) return reject(damaged(error));
          let own = 0;
          stream.on("data", (chunk: Buffer) => {
            own += chunk.length;
            unpacked += chunk.length;
            const isBomb = own > SMALL_PART && own > entry.compressedSize * MOST_RATIO;
            if (unpacked <= limits.unpackedBytes && !isBomb) return;
            stream.destroy();
            reject(
              new UnreadableFile(
                `The workbook unpacks to more than ${megabytes(isBomb ? own : limits.unpackedBytes)} (its part ${entry.fileName} alone to over ${Math.floor(own / Math.max(1, entry.compressedSize))} times its size), which no table does. Save the sheet that is needed as CSV, or as a workbook of its own.`,
              ),
            );
          });
          stream.on("error", (e: Error) => reject(damaged(e)));
          stream.on("end", () => zip.readEntry());
        });
      });
      zip.readEntry();
    });
  } finally {
    zip.close();
  }
  return unpacked;
}

/** The sheets of a workbook, in their order. Throws an `UnreadableFile`. */
export async function sheetsOf(path: string): Promise<readonly SheetEntry[]> {
  const book = await standard(path);
  await book.dispose();
  return book.sheets;
}

/**
 * Reads one sheet in batches: values of formulas, dates as ISO, numbers as plain
 * decimals. Throws an `UnreadableFile` when the sheet is not there or too wide.
 */
export async function* readWorkbook(
  path: string,
  { sheet: wanted, limits, size }: { sheet: string; limits: Limits; size: number },
): AsyncGenerator<RowBatch> {
  const book = await standard(path);
  try {
    for await (const sheet of open(book.path)) {
      if (nameOf(sheet) !== wanted) continue;
      let rows: TidyRow[] = [];
      let read = 0;
      for await (const row of rowsOf(sheet)) {
        const cells = rowTexts(row, limits);
        if (cells.some((cell) => cell !== "")) rows.push({ line: row.number, cells });
        if (rows.length < BATCH_ROWS) continue;
        read += rows.length;
        // How far a sheet is read cannot be told from its bytes; the share nears the whole without reaching it.
        yield { rows, bytes: Math.round(size * (1 - 1 / (1 + read / 50_000))) };
        rows = [];
      }
      yield { rows, bytes: size };
      return;
    }
  } finally {
    await book.dispose();
  }
  throw new UnreadableFile(`The workbook has no sheet “${wanted}” any more. Choose another.`);
}

async function standard(path: string): Promise<StandardWorkbook> {
  try {
    return await standardWorkbook(path);
  } catch (error) {
    throw damaged(error);
  }
}

/** The sheets of a workbook. What the reader stumbles over is said as what it is: a damaged file. */
async function* open(path: string): AsyncGenerator<AsyncIterable<ExcelJS.Row>> {
  const reader = new ExcelJS.stream.xlsx.WorkbookReader(path, {
    worksheets: "emit",
    sharedStrings: "cache",
    hyperlinks: "ignore",
    styles: "cache",
    entries: "ignore",
  });
  try {
    for await (const sheet of reader) yield sheet;
  } catch (error) {
    throw damaged(error);
  }
}

async function* rowsOf(sheet: AsyncIterable<ExcelJS.Row>): AsyncGenerator<ExcelJS.Row> {
  const rows = sheet[Symbol.asyncIterator]();
  for (;;) {
    // Only the reader's own stumbling counts as damage, not what is made of its rows.
    const next = await rows.next().catch((error: unknown) => {
      throw damaged(error);
    });
    if (next.done) return;
    yield next.value;
  }
}

function nameOf(sheet: unknown): string {
  return (sheet as { name?: string }).name ?? "Sheet";
}

function rowTexts(row: ExcelJS.Row, limits: Limits): string[] {
  const values = row.values as ExcelJS.CellValue[];
  if (values.length - 1 > limits.columns) {
    throw new UnreadableFile(
      `Row ${row.number} of the sheet has ${(values.length - 1).toLocaleString("en-GB")} columns; at most ${limits.columns.toLocaleString("en-GB")} are read. Leave out columns that are not needed.`,
    );
  }
  return Array.from({ length: Math.max(0, values.length - 1) }, (_, i) => cellText(values[i + 1]));
}

function cellText(value: ExcelJS.CellValue | undefined): string {
  if (value === null || value === undefined) return "";
  if (typeof value === "number") return plainNumber(value);
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? "TRUE" : "FALSE";
  if (value instanceof Date) return dateText(value);
  if ("richText" in value) return value.richText.map((part) => part.text).join("");
  if ("error" in value) return value.error;
  // A formula that was stored without its value is no value: it stands there as it is, and is found.
  if ("formula" in value || "sharedFormula" in value)
    return value.result === undefined && "formula" in value ? `=${value.formula}` : cellText(value.result);
  if ("text" in value) return typeof value.text === "string" ? value.text : cellText(value.text);
  return "";
}

/** Binary fractions leave digits beyond the fifteenth that nobody typed. */
function plainNumber(value: number): string {
  const text = String(Number(value.toPrecision(15)));
  return /e/i.test(text) ? value.toFixed(9).replace(/\.?0+$/, "") : text;
}

function dateText(date: Date): string {
  if (Number.isNaN(date.getTime())) return "";
  const month = formatMonth(monthOf(date.getUTCFullYear(), date.getUTCMonth() + 1));
  return `${month}-${String(date.getUTCDate()).padStart(2, "0")}`;
}

function megabytes(bytes: number): string {
  return `${Math.floor(bytes / 1_048_576).toLocaleString("en-GB")} MB`;
}

function damaged(error: unknown): Error {
  if (error instanceof UnreadableFile) return error;
  return new UnreadableFile(
    "The workbook is damaged or not a workbook at all. Open it in a spreadsheet program, save it again, and load that file.",
    {
      cause: error,
    },
  );
}
