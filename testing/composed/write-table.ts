import iconv from "iconv-lite";
import { workbookOfCells } from "../shape-files.ts";
import type { Cell, ComposedTable } from "./compose-table.ts";
import { Random } from "./random.ts";

/** A composed table as a file. */
export interface ComposedFile {
  readonly name: string;
  readonly content: Uint8Array;
  readonly rows: readonly (readonly string[])[];
}

interface NumberStyle {
  readonly mark: "." | ",";
  readonly grouping: string;
  readonly negative: "in front" | "behind" | "brackets";
}

/** Writes a composed table down: numbers, title, noise and encoding are drawn by the seed. */
export async function writeTable(table: ComposedTable, seed: number): Promise<ComposedFile> {
  const random = new Random(seed ^ 0x5eed);
  const mark = table.language === "en" ? "." : ",";
  const style: NumberStyle = {
    mark,
    grouping: random.pick(["", "", mark === "." ? "," : ".", " ", "'", "\u00a0"]),
    negative: random.pick(["in front", "in front", "behind", "brackets"]),
  };
  const width = Math.max(...table.rows.map((row) => row.length));
  const pad = (cells: readonly string[]) => [...cells, ...Array<string>(Math.max(0, width - cells.length)).fill("")];
  const isWorkbook = random.chance(0.25);
  const keepsNumbers = isWorkbook && random.chance(0.7);
  const text = (cell: Cell) =>
    typeof cell === "string"
      ? mark === "," && /^-?\d+\.\d%$/.test(cell)
        ? cell.replace(".", ",")
        : cell
      : keepsNumbers
        ? String(cell.hundredths / 100 / (cell.isMoney ? table.scale : 1))
        : writtenNumber(cell, table.scale, style);
  const written = table.rows.map((row) => pad(row.map(text)));
  // Figures are kept as numbers, and so are years and codes; what only looks like a number is a text.
  const isNumber = (row: readonly string[], place: number) => {
    const cell = table.rows[written.indexOf(row as string[])]?.[place];
    return keepsNumbers && (typeof cell === "string" ? /^[1-9]\d*$/.test(cell) : cell !== undefined);
  };
  const rows = [
    ...table.title.map((line) => pad(line === "" ? [] : [line])),
    ...written,
    ...(random.chance(0.15) ? [pad([]), pad(["Source: controlling, not audited"])] : []),
  ];
  if (isWorkbook)
    return {
      name: `${table.fileTitle}.xlsx`,
      rows,
      content: await workbookOfCells({
        Sheet1: rows.map((row) => row.map((cell, i) => (cell === "" ? null : isNumber(row, i) ? Number(cell) : cell))),
      }),
    };
  const delimiter = random.pick(mark === "," ? [";", "\t"] : [",", ";", "\t", "|"]);
  const quoted = (cell: string) =>
    cell.includes(delimiter) || cell.includes('"') ? `"${cell.replaceAll('"', '""')}"` : cell;
  const content = rows.map((row) => row.map(quoted).join(delimiter)).join("\r\n") + "\r\n";
  const encoding = random.pick(["utf8", "utf8", "utf8", "win1252", "utf-16le"]);
  const isLatin = iconv.decode(iconv.encode(content, "win1252"), "win1252") === content;
  return {
    name: `${table.fileTitle}.csv`,
    rows,
    content: iconv.encode(content, encoding === "win1252" && !isLatin ? "utf8" : encoding, {
      addBOM: encoding !== "win1252",
    }),
  };
}

function writtenNumber(
  { hundredths, decimals, isMoney }: Exclude<Cell, string>,
  scale: number,
  { mark, grouping, negative }: NumberStyle,
): string {
  const units = Math.round((Math.abs(hundredths) / 100 / (isMoney ? scale : 1)) * 10 ** decimals);
  const digits = String(units).padStart(decimals + 1, "0");
  const whole = decimals === 0 ? digits : digits.slice(0, -decimals);
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, grouping);
  const plain = decimals === 0 ? grouped : `${grouped}${mark}${digits.slice(-decimals)}`;
  if (hundredths >= 0) return plain;
  return negative === "in front" ? `-${plain}` : negative === "behind" ? `${plain}-` : `(${plain})`;
}
