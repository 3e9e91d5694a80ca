import { DATE_FORMATS, readDate } from "./read-date.ts";
import { readNumber } from "./read-number.ts";

/** Where a table's column names stand: `line` is the first header line, counted from 1; 0 rows: there are none. */
export interface HeaderPlace {
  readonly line: number;
  readonly rows: number;
}

/** How many lines may stand above a header. */
const DEEPEST_HEADER = 40;
const ANY_CALENDAR = { startMonth: 1 };

/**
 * Finds the header among a file's first rows: the first row about as wide as the data
 * below it whose cells are words (or months, laid out as columns) rather than amounts.
 * A row of fewer words right above, over several columns each, belongs to it.
 */
export function detectHeader(rows: readonly (readonly string[])[]): HeaderPlace {
  const width = typicalWidth(rows);
  if (width < 2) return { line: 1, rows: rows.length > 0 ? 1 : 0 };
  let bare: HeaderPlace | undefined;
  for (let i = 0; i < Math.min(rows.length, DEEPEST_HEADER); i += 1) {
    const cells = rows[i]!;
    const filled = cells.filter((c) => c.trim() !== "");
    if (filled.length < Math.max(2, width * 0.6)) continue;
    const words = filled.filter((c) => !isAmount(c) || isPeriod(c)).length;
    if (words < filled.length * 0.8 || new Set(filled).size < filled.length * 0.5) {
      // Full of amounts: the data begin here, without names, unless this is a short line and names follow.
      bare ??= { line: i + 1, rows: 0 };
      if (filled.length >= width * 0.9) return bare;
      continue;
    }
    // Two header lines: either this one groups the next, or the one above groups this one.
    const next = rows[i + 1];
    const after = rows[i + 2];
    const nextNames = next?.filter((c) => c.trim() !== "") ?? [];
    const isGrouping =
      next !== undefined &&
      after !== undefined &&
      nextNames.length >= width * 0.6 &&
      nextNames.every((c) => !isAmount(c) || isPeriod(c)) &&
      after.some(isAmount) &&
      hasGaps(cells);
    if (isGrouping) return { line: i + 1, rows: 2 };
    const above = rows[i - 1];
    const namesAbove = above?.filter((c) => c.trim() !== "") ?? [];
    const groupsAbove = namesAbove.length >= 2 && namesAbove.every((c) => !isAmount(c)) && hasGaps(above!);
    return groupsAbove ? { line: i, rows: 2 } : { line: i + 1, rows: 1 };
  }
  return bare ?? { line: 1, rows: 0 };
}

/** Names for a table's columns: header rows joined, grouping names filled to the right; empty and repeated ones are numbered. */
export function columnNames(header: readonly (readonly string[])[], width: number): string[] {
  const filled = header.map((cells, row) => {
    let last = "";
    return Array.from({ length: width }, (_, i) => {
      const cell = (cells[i] ?? "").replace(/\s+/g, " ").trim();
      if (row === header.length - 1) return cell;
      if (cell !== "") last = cell;
      return last;
    });
  });
  const seen = new Map<string, number>();
  // Months under their quarters, or quarters under their years, say enough by themselves.
  const lowest = (filled.at(-1) ?? []).filter((cell) => cell !== "" && isPeriod(cell));
  const standAlone = new Set(lowest.length === new Set(lowest).size ? lowest : []);
  return Array.from({ length: width }, (_, i) => {
    const own = filled.at(-1)?.[i] ?? "";
    const parts = standAlone.has(own)
      ? [own]
      : filled.map((cells) => cells[i]!).filter((part, k, all) => part !== "" && all.indexOf(part) === k);
    const name = parts.join(" ") || `Column ${i + 1}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    return times === 1 ? name : `${name} (${times})`;
  });
}

function hasGaps(cells: readonly string[]): boolean {
  const first = cells.findIndex((c) => c.trim() !== "");
  return cells.slice(first + 1).some((c) => c.trim() === "");
}

function isAmount(text: string): boolean {
  return readNumber(text, ".") !== undefined || readNumber(text, ",") !== undefined;
}

function isPeriod(text: string): boolean {
  return (
    DATE_FORMATS.some((format) => format !== "serial" && readDate(text, format, ANY_CALENDAR)) ||
    /^(19|20)\d{2}$/.test(text.trim())
  );
}

/** The most frequent number of cells up to the last filled one. */
function typicalWidth(rows: readonly (readonly string[])[]): number {
  const counts = new Map<number, number>();
  for (const row of rows) {
    const last = row.findLastIndex((c) => c.trim() !== "") + 1;
    if (last > 0) counts.set(last, (counts.get(last) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 0;
}
