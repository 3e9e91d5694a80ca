import type { TidyRow } from "#core/tidy/row.ts";
import yauzl from "yauzl";
import type { Limits } from "../limits.ts";
import type { RowBatch } from "./read-text.ts";
import { readFormats, readRows, readStrings, type SheetRow } from "./sheet-parser.ts";
import { openArchive, readLayout, type SheetEntry } from "./workbook-parts.ts";
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
  const archive = await openArchive(path).catch(rethrowDamaged);
  try {
    return (await readLayout(archive).catch(rethrowDamaged)).sheets;
  } finally {
    archive.close();
  }
}

/**
 * Reads one sheet in batches: values of formulas, dates as ISO, numbers as plain
 * decimals. Throws an `UnreadableFile` when the sheet is not there or too wide.
 */
export async function* readWorkbook(
  path: string,
  { sheet: wanted, limits, size }: { sheet: string; limits: Limits; size: number },
): AsyncGenerator<RowBatch> {
  const archive = await openArchive(path).catch(rethrowDamaged);
  try {
    const { sheets, strings, styles, is1904 } = await readLayout(archive).catch(rethrowDamaged);
    const sheet = sheets.find(({ name }) => name === wanted);
    if (!sheet) throw new UnreadableFile(`The workbook has no sheet “${wanted}” any more. Choose another.`);
    const context = {
      strings: strings === undefined ? [] : await archive.stream(strings).then(readStrings).catch(rethrowDamaged),
      formats: styles === undefined ? [] : await archive.stream(styles).then(readFormats).catch(rethrowDamaged),
      is1904,
    };
    let rows: TidyRow[] = [];
    let read = 0;
    for await (const some of soundly(readRows(await archive.stream(sheet.part).catch(rethrowDamaged), context))) {
      for (const row of some) {
        requireNarrow(row, limits);
        if (row.cells.length > 0) rows.push({ line: row.number, cells: row.cells });
      }
      if (rows.length < BATCH_ROWS) continue;
      read += rows.length;
      // How far a sheet is read cannot be told from its bytes; the share nears the whole without reaching it.
      yield { rows, bytes: Math.round(size * (1 - 1 / (1 + read / 50_000))) };
      rows = [];
    }
    yield { rows, bytes: size };
  } finally {
    archive.close();
  }
}

/** What a reader stumbles over is said as what it is: a damaged file. What is made of its rows is not its fault. */
async function* soundly<T>(batches: AsyncGenerator<T>): AsyncGenerator<T> {
  try {
    for (;;) {
      const next = await batches.next().catch(rethrowDamaged);
      if (next.done) return;
      yield next.value;
    }
  } finally {
    // Whoever has seen enough lets go of the file.
    await batches.return(undefined);
  }
}

function requireNarrow(row: SheetRow, limits: Limits): void {
  if (row.cells.length > limits.columns)
    throw new UnreadableFile(
      `Row ${row.number} of the sheet has ${row.cells.length.toLocaleString("en-GB")} columns; at most ${limits.columns.toLocaleString("en-GB")} are read. Leave out columns that are not needed.`,
    );
}

function rethrowDamaged(error: unknown): never {
  throw damaged(error);
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
