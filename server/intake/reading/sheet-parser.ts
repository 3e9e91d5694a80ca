import type { Readable } from "node:stream";
import { StringDecoder } from "node:string_decoder";
import { SaxesParser } from "saxes";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";
import { kindOfFormat, numberText, type CellFormat } from "./cell-format.ts";

/** A row of a sheet: its number, and the texts of its cells from the first column on. */
export interface SheetRow {
  readonly number: number;
  readonly cells: readonly string[];
}

/** What numbers of cells refer to. */
export interface CellContext {
  readonly strings: readonly string[];
  /** By a cell's style, what its number stands for. */
  readonly formats: readonly CellFormat[];
  readonly is1904: boolean;
}

interface Handlers {
  readonly open?: (name: string, attributes: Readonly<Record<string, string>>) => void;
  readonly text?: (text: string) => void;
  readonly close?: (name: string) => void;
}

/** Runs through a part's elements, telling their names without prefix, chunk by chunk. Throws where it is no XML. */
async function* parsePart(stream: Readable, handlers: Handlers): AsyncGenerator<void> {
  const parser = new SaxesParser();
  const local = (name: string) => name.slice(name.indexOf(":") + 1);
  let failure: Error | undefined;
  parser.on("error", (error) => (failure ??= error));
  parser.on("opentag", ({ name, attributes }) => handlers.open?.(local(name), attributes));
  parser.on("text", (text) => handlers.text?.(text));
  parser.on("cdata", (text) => handlers.text?.(text));
  parser.on("closetag", ({ name }) => handlers.close?.(local(name)));
  const decoder = new StringDecoder("utf8");
  const requireSound = () => {
    if (failure) throw failure;
  };
  for await (const chunk of stream) {
    parser.write(decoder.write(chunk as Buffer));
    requireSound();
    yield;
  }
  parser.write(decoder.end()).close();
  requireSound();
}

/** The texts that cells share, in their order. Readings printed above them are left out. */
export async function readStrings(stream: Readable): Promise<string[]> {
  const strings: string[] = [];
  const texts = textCollector();
  const parts = parsePart(stream, {
    open(name) {
      if (name === "si") texts.start();
      texts.open(name);
    },
    text: texts.text,
    close(name) {
      texts.close(name);
      if (name === "si") strings.push(texts.value());
    },
  });
  for await (const _ of parts);
  return strings;
}

/** By the number of a cell's style, what numbers stand for and how far texts stand in. */
export async function readFormats(stream: Readable): Promise<CellFormat[]> {
  const codes = new Map<number, string>();
  const formats: { id: number; indent: number }[] = [];
  let isInCells = false;
  const parts = parsePart(stream, {
    open(name, attributes) {
      if (name === "numFmt") codes.set(Number(attributes["numFmtId"]), attributes["formatCode"] ?? "");
      if (name === "cellXfs") isInCells = true;
      if (name === "xf" && isInCells) formats.push({ id: Number(attributes["numFmtId"] ?? 0), indent: 0 });
      if (name === "alignment" && isInCells && formats.length > 0)
        formats.at(-1)!.indent = Math.min(MOST_INDENT, Number(attributes["indent"] ?? 0) || 0);
    },
    close(name) {
      if (name === "cellXfs") isInCells = false;
    },
  });
  for await (const _ of parts);
  return formats.map(({ id, indent }) => ({ kind: kindOfFormat(id, codes.get(id)), indent }));
}

const PLAIN_FORMAT: CellFormat = { kind: "number", indent: 0 };
/** Workbooks show texts at most so far in. */
const MOST_INDENT = 15;

/** Reads a sheet's rows as they come, some at a time. */
export async function* readRows(stream: Readable, context: CellContext): AsyncGenerator<SheetRow[]> {
  let rows: SheetRow[] = [];
  let number = 0;
  let cells: string[] = [];
  let cell: { place: number; type: string; style: number; formula: string | null; value: string | null } | undefined;
  let reading: "value" | "formula" | undefined;
  const texts = textCollector();
  const parts = parsePart(stream, {
    open(name, attributes) {
      if (name === "row") {
        number = rowOf(attributes["r"], number);
        cells = [];
      } else if (name === "c") {
        const at = attributes["r"];
        cell = {
          place: at === undefined ? nextPlace(cells, number) : columnOf(at),
          type: attributes["t"] ?? "n",
          style: Number(attributes["s"] ?? 0),
          formula: null,
          value: null,
        };
        texts.start();
      } else if (cell && name === "v") {
        reading = "value";
        cell.value = "";
      } else if (cell && name === "f") {
        reading = "formula";
        cell.formula = "";
      } else texts.open(name);
    },
    text(text) {
      if (cell && reading === "value") cell.value += text;
      else if (cell && reading === "formula") cell.formula += text;
      else texts.text(text);
    },
    close(name) {
      if (name === "v" || name === "f") reading = undefined;
      else if (name === "c" && cell) {
        const text = cellText(cell, texts.value(), context);
        if (text !== "") {
          while (cells.length < cell.place) cells.push("");
          cells[cell.place] = text;
        }
        cell = undefined;
      } else if (name === "row") rows.push({ number, cells });
      else texts.close(name);
    },
  });
  for await (const _ of parts) {
    if (rows.length === 0) continue;
    yield rows;
    rows = [];
  }
  if (rows.length > 0) yield rows;
}

function cellText(
  { type, style, formula, value }: { type: string; style: number; formula: string | null; value: string | null },
  inline: string,
  { strings, formats, is1904 }: CellContext,
): string {
  const { kind, indent } = formats[style] ?? PLAIN_FORMAT;
  // What a workbook shows farther in stands behind spaces, as in a file of text.
  const indented = (text: string) => (indent > 0 && text !== "" ? "  ".repeat(indent) + text : text);
  if (type === "inlineStr") return indented(inline);
  // A formula that was stored without its value is no value: it stands there as it is, and is found.
  if (value === null) return formula === null ? "" : `=${formula}`;
  if (type === "s") return indented(strings[Number(value)] ?? "");
  if (type === "b") return value.trim() === "1" ? "TRUE" : "FALSE";
  if (type === "d") return value.slice(0, 10);
  if (type === "str" || type === "e") return value;
  const read = Number(value);
  return value.trim() === "" || !Number.isFinite(read) ? value : numberText(read, kind, is1904);
}

/** Gathers what stands in `t` elements, but not readings printed above it. */
function textCollector() {
  let value = "";
  let isText = false;
  let phonetic = 0;
  return {
    start: () => void (value = ""),
    value: () => value,
    open: (name: string) => {
      if (name === "rPh") phonetic += 1;
      if (name === "t") isText = phonetic === 0;
    },
    text: (text: string) => {
      if (isText) value += text;
    },
    close: (name: string) => {
      if (name === "rPh") phonetic -= 1;
      if (name === "t") isText = false;
    },
  };
}

/** The format's last row and column: XFD1048576. A cell beyond them would be no table, and a row as wide as it says. */
const LAST_ROW = 1_048_576;
const LAST_COLUMN = 16_384;

/** The number of a row, as it says, or after the one before. Throws an `UnreadableFile` where a sheet has none such. */
function rowOf(said: string | undefined, before: number): number {
  const number = said === undefined ? before + 1 : Number(said);
  if (Number.isInteger(number) && number >= 1 && number <= LAST_ROW) return number;
  throw new UnreadableFile(
    `A sheet of the workbook has a row "${(said ?? String(number)).slice(0, 20)}", and the last row of a sheet is 1,048,576: the workbook was not written by a spreadsheet program. Save it again in one, and load that file.`,
  );
}

function nextPlace(cells: readonly string[], row: number): number {
  if (cells.length < LAST_COLUMN) return cells.length;
  throw beyondColumns(`Row ${row}`);
}

/** The place of a cell's column: 0 of A1, 27 of AB3. Throws an `UnreadableFile` beyond the format's last one. */
function columnOf(at: string): number {
  let place = 0;
  for (let i = 0; i < at.length; i += 1) {
    const letter = at.charCodeAt(i) - 64;
    if (letter < 1 || letter > 26) break;
    place = place * 26 + letter;
    if (place > LAST_COLUMN) throw beyondColumns(`The cell ${at.slice(0, 20)}`);
  }
  if (place === 0) throw beyondColumns(`The cell "${at.slice(0, 20)}"`);
  return place - 1;
}

function beyondColumns(what: string): UnreadableFile {
  return new UnreadableFile(
    `${what} of the workbook lies outside the columns A to XFD that a sheet has: the workbook was not written by a spreadsheet program. Save it again in one, and load that file.`,
  );
}
