import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { detectDateFormat, type DateFormat } from "./read-date.ts";
import { detectDecimalMark, readNumber, type DecimalMark } from "./read-number.ts";

/** What a column's values look like. */
export interface ColumnProfile {
  readonly name: string;
  readonly type: "empty" | "text" | "number" | "date";
  readonly filled: number;
  readonly distinct: number;
  readonly mark: DecimalMark;
  /** Whether its values can only be read with that decimal mark; bare whole numbers tell nothing. */
  readonly tellsMark: boolean;
  /** `false` when the values could as well be read with the other decimal mark or date order. */
  readonly isCertain: boolean;
  readonly dateFormat: DateFormat | null;
  readonly examples: readonly string[];
}

/** Share of a column's filled cells that must read as numbers or dates for it to be of that type. */
const MOSTLY = 0.85;
/** Less is enough where what cannot be read is one text or two: something that was not known yet, or mistyped. */
const MANY = 0.6;
const FEW_UNREADABLE = 2;
/** Distinct values that are tried as dates, in each of the ways to write them. */
const DATES_TRIED = 60;
const PERIOD_NAME = /\b(date|day|month|period|quarter|week|posted|posting)\b/i;

/** Profiles each column of a sample. */
export function profileColumns(
  columns: readonly string[],
  rows: readonly (readonly string[])[],
  calendar: FiscalCalendar,
): ColumnProfile[] {
  return columns.map((name, i) => {
    const filled = rows.map((row) => (row[i] ?? "").trim()).filter((text) => text !== "");
    const distinct = [...new Set(filled)];
    const number = detectDecimalMark(filled);
    const date = detectDateFormat(distinct.slice(0, DATES_TRIED), calendar);
    const base = {
      name,
      filled: filled.length,
      distinct: distinct.length,
      mark: number.mark,
      tellsMark: number.tells,
      examples: distinct.slice(0, 5),
    };
    if (filled.length === 0) return { ...base, type: "empty", isCertain: true, dateFormat: null };
    const tried = Math.min(distinct.length, DATES_TRIED);
    const areDates = date !== undefined && isType(date.readable / tried, tried - date.readable);
    const unreadable = distinct.filter((text) => !readNumber(text, number.mark)).length;
    // Bare numbers are dates only where the name says so: serial numbers, 202611.
    const areNumbers = isType(number.readable / filled.length, unreadable);
    if (areDates && (!areNumbers || PERIOD_NAME.test(name))) {
      return { ...base, type: "date", isCertain: date.isCertain, dateFormat: date.format };
    }
    if (areNumbers) return { ...base, type: "number", isCertain: number.isCertain, dateFormat: null };
    return { ...base, type: "text", isCertain: true, dateFormat: null };
  });
}

/** Whether enough of a column's cells, or all but a text or two, can be read as being of a type. */
function isType(share: number, distinctUnreadable: number): boolean {
  return share >= MOSTLY || (share >= MANY && distinctUnreadable <= FEW_UNREADABLE);
}
