import { createReadStream } from "node:fs";
import type { Readable } from "node:stream";
import { StringDecoder } from "node:string_decoder";
import iconv from "iconv-lite";
import Papa from "papaparse";
import type { Encoding } from "#core/reading/detect-encoding.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Limits } from "../limits.ts";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** Rows with the number of bytes read so far. */
export interface RowBatch {
  readonly rows: readonly TidyRow[];
  readonly bytes: number;
}

const CHUNK_BYTES = 262_144;

/**
 * Reads a delimited text file, by its path or as a stream, in batches, with memory for one batch only. Lines are
 * counted as an editor counts them; empty ones are left out. Throws an
 * `UnreadableFile` for a line or a number of columns beyond the limits.
 */
export async function* readText(
  source: string | Readable,
  { encoding, delimiter, limits }: { encoding: Encoding; delimiter: string; limits: Limits },
): AsyncGenerator<RowBatch> {
  // Node decodes UTF-8 by itself, in a fraction of the time.
  const decoder = encoding === "utf-8" ? new StringDecoder("utf8") : iconv.getDecoder(encoding);
  const parser = new Papa.Parser({ delimiter, newline: "\n", quoteChar: '"' });
  const isUtf16 = encoding.startsWith("utf-16");
  let rest = "";
  let line = 1;
  let bytes = 0;
  let isFirst = true;
  let heldReturn = false;
  const stream = typeof source === "string" ? createReadStream(source, { highWaterMark: CHUNK_BYTES }) : source;
  for await (const chunk of stream) {
    const buffer = chunk as Buffer;
    bytes += buffer.length;
    let text = decoder.write(buffer);
    if (isFirst) text = text.replace(/^\ufeff/, "");
    isFirst = false;
    // A return at the end may be the first half of a line break.
    if (heldReturn) text = `\r${text}`;
    heldReturn = text.endsWith("\r");
    if (heldReturn) text = text.slice(0, -1);
    const input = rest + text.replace(/\r\n?/g, "\n");
    requireKeepable(input, line);
    const { rows, consumed, nextLine } = parse(parser, input, true, line, { limits, isUtf16 });
    rest = input.slice(consumed);
    line = nextLine;
    if (rest.length > limits.lineLength) {
      throw new UnreadableFile(
        `Line ${line} is longer than ${limits.lineLength.toLocaleString("en-GB")} characters. Either a quotation mark is opened there and never closed, or this is not a table; correct the line and load the file again.`,
      );
    }
    yield { rows, bytes };
  }
  const input = rest + (decoder.end() ?? "") + (heldReturn ? "\n" : "");
  requireKeepable(input, line);
  if (input !== "") yield { rows: parse(parser, input, false, line, { limits, isUtf16 }).rows, bytes };
}

/** Texts with U+0000 go into no database; a file that holds it was not written whole. */
function requireKeepable(input: string, line: number): void {
  const at = input.indexOf("\0");
  if (at >= 0)
    throw new UnreadableFile(
      `Line ${line + countBreaks(input, at)} holds the character U+0000, which no table does: the file was damaged or not written to its end. Export it once more and load that file.`,
    );
}

function parse(
  parser: Papa.Parser,
  input: string,
  ignoreLastRow: boolean,
  line: number,
  { limits, isUtf16 }: { limits: Limits; isUtf16: boolean },
): { rows: TidyRow[]; consumed: number; nextLine: number } {
  const result = parser.parse(input, 0, ignoreLastRow) as { data: string[][]; meta: { cursor: number } };
  const consumed = ignoreLastRow ? result.meta.cursor : input.length;
  const rows: TidyRow[] = [];
  let nextLine = line;
  // Line breaks inside quotes are rare: only where there are more breaks than rows are cells looked at.
  const hasBreaks = countBreaks(input, consumed) > result.data.length;
  for (const cells of result.data) {
    const at = nextLine;
    nextLine += 1;
    if (hasBreaks) for (const cell of cells) nextLine += countBreaks(cell, cell.length);
    if (cells[0]!.trim() === "" && cells.every((cell) => cell.trim() === "")) continue;
    if (cells.length > limits.columns) {
      throw new UnreadableFile(
        `Line ${at} has ${cells.length.toLocaleString("en-GB")} columns; at most ${limits.columns.toLocaleString("en-GB")} are read. Check the delimiter, or leave out columns that are not needed.`,
      );
    }
    // Half a pair of UTF-16 is no character; it becomes the sign for one that could not be read.
    rows.push({ line: at, cells: isUtf16 ? cells.map((cell) => cell.toWellFormed()) : cells });
  }
  return { rows, consumed, nextLine };
}

function countBreaks(text: string, end: number): number {
  let count = 0;
  for (let at = text.indexOf("\n"); at >= 0 && at < end; at = text.indexOf("\n", at + 1)) count += 1;
  return count;
}
