import { formatMonth, monthOf } from "#core/calendar/month.ts";

/** What a number stands for by the format it is shown in. */
export type CellKind = "number" | "date" | "duration";

/** How a cell is shown: what its number stands for, and by how many steps its text stands in. */
export interface CellFormat {
  readonly kind: CellKind;
  readonly indent: number;
}

/** Formats that every workbook has, by their numbers: ECMA-376, 18.8.30; those of East Asian dates included. */
const DATES = new Set([14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 34, 35, 36, 50, 51, 52, 53, 54, 55, 56, 57, 58]);
const TIMES = new Set([18, 19, 20, 21, 32, 33, 45, 46, 47]);

/** What numbers stand for in a format, by its number or by its code. */
export function kindOfFormat(id: number, code: string | undefined): CellKind {
  if (code === undefined) return DATES.has(id) ? "date" : TIMES.has(id) ? "duration" : "number";
  const plain = code
    .replace(/"[^"]*"|\\./g, "")
    .replace(/\[(?![hms]+\])[^\]]*\]/gi, "")
    .split(";")[0]!;
  if (/[dy]/i.test(plain) || (/m/i.test(plain) && !/[hs]/i.test(plain))) return "date";
  return /[hs]/i.test(plain) ? "duration" : "number";
}

/** A number of a cell as text: plain decimal, ISO date, or hours, minutes and seconds. */
export function numberText(value: number, kind: CellKind, is1904: boolean): string {
  if (kind === "date") return dateText(value + (is1904 ? 1462 : 0));
  if (kind === "duration") return durationText(value);
  return plainNumber(value);
}

/** Binary fractions leave digits beyond the fifteenth that nobody typed. */
function plainNumber(value: number): string {
  const text = String(Number(value.toPrecision(15)));
  return /e/i.test(text) ? value.toFixed(9).replace(/\.?0+$/, "") : text;
}

const DAY_MS = 86_400_000;
const FIRST_DAY = Date.UTC(1899, 11, 30);
/** 29 February 1900, which never was, is day 60: what is before it counts one less. */
const FALSE_DAY = 60;
const LAST_DAY = 2_958_465;

function dateText(serial: number): string {
  const day = Math.floor(serial) + (serial < FALSE_DAY ? 1 : 0);
  if (day < 1 || day > LAST_DAY) return plainNumber(serial);
  const date = new Date(FIRST_DAY + day * DAY_MS);
  const month = formatMonth(monthOf(date.getUTCFullYear(), date.getUTCMonth() + 1));
  return `${month}-${String(date.getUTCDate()).padStart(2, "0")}`;
}

function durationText(days: number): string {
  const seconds = Math.round(Math.abs(days) * 86_400);
  const two = (value: number) => String(value).padStart(2, "0");
  const text = `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return days < 0 && seconds > 0 ? `-${text}` : text;
}
