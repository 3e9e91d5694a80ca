import { fiscalYearStart, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthIndexOf } from "./month-names.ts";
import { daysInMonth, monthOf, type Month } from "../calendar/month.ts";

/** How dates and periods are written in a column. */
export type DateFormat = "iso" | "day-first" | "month-first" | "month-name" | "serial" | "fiscal-period" | "quarter";

/** All date formats, the more telling ones first: the order in which they are tried. */
export const DATE_FORMATS: readonly DateFormat[] = [
  "iso",
  "fiscal-period",
  "quarter",
  "month-name",
  "day-first",
  "month-first",
  "serial",
];

/** A date, or a month where no day is given. */
export interface ReadDate {
  readonly month: Month;
  readonly day: number | null;
}

/** Day 1 of the serial numbers spreadsheets keep dates in is 1 January 1900, with a 29 February 1900 that never was. */
const SERIAL_EPOCH = daysSinceEpoch(1899, 12, 30);

/** Reads a text in a format. `undefined` when it is not written so, or names a day that does not exist. */
export function readDate(text: string, format: DateFormat, calendar: FiscalCalendar): ReadDate | undefined {
  const bare = text.trim().replace(/[T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?( ?[AP]M)?(Z|[+-]\d{2}:?\d{2})?$/i, "");
  switch (format) {
    case "iso":
      return readIso(bare);
    case "day-first":
      return readNumeric(bare, true);
    case "month-first":
      return readNumeric(bare, false);
    case "month-name":
      return readMonthName(bare);
    case "serial":
      return readSerial(bare);
    case "fiscal-period":
      return readFiscalPeriod(bare, calendar);
    case "quarter":
      return readQuarter(bare, calendar);
  }
}

/** The format that reads most of the texts, and whether another reads them differently just as well. */
export function detectDateFormat(
  texts: readonly string[],
  calendar: FiscalCalendar,
): { format: DateFormat; readable: number; isCertain: boolean } | undefined {
  // Every way of writing a date has digits in it; most columns are told apart by that alone.
  if (texts.filter((text) => /\d/.test(text)).length * 2 < texts.length) return undefined;
  const scores = DATE_FORMATS.map((format) => ({
    format,
    readable: texts.filter((text) => readDate(text, format, calendar)).length,
  }));
  // Where both read as much, the company's own way of writing dates is meant.
  const preferred: DateFormat | undefined = calendar.isMonthFirst ? "month-first" : undefined;
  const best = scores.reduce((a, b) =>
    b.readable > a.readable || (b.readable === a.readable && b.format === preferred && a.format === "day-first")
      ? b
      : a,
  );
  if (best.readable === 0) return undefined;
  const differs = (other: DateFormat) =>
    texts.some((text) => {
      const [a, b] = [readDate(text, best.format, calendar), readDate(text, other, calendar)];
      return a && b && (a.month !== b.month || a.day !== b.day);
    });
  const isCertain = !scores.some((s) => s !== best && s.readable === best.readable && differs(s.format));
  return { ...best, isCertain };
}

function readIso(text: string): ReadDate | undefined {
  const match =
    /^(\d{4})[-/.](\d{1,2})(?:[-/.](\d{1,2}))?$/.exec(text) ?? /^((?:19|20)\d{2})(0[1-9]|1[0-2])(\d{2})?$/.exec(text);
  return match ? dated(Number(match[1]), Number(match[2]), match[3]) : undefined;
}

function readNumeric(text: string, dayFirst: boolean): ReadDate | undefined {
  const monthOnly = /^(\d{1,2})[-/.](\d{4})$/.exec(text);
  if (monthOnly) return dated(Number(monthOnly[2]), Number(monthOnly[1]), undefined);
  const match = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d{2})$/.exec(text);
  if (!match) return undefined;
  const [day, month] = dayFirst ? [match[1], match[2]] : [match[2], match[1]];
  return dated(fullYear(match[3]!), Number(month), day);
}

function readMonthName(text: string): ReadDate | undefined {
  const match =
    /^(?:(\d{1,2})(?:st|nd|rd|th|\.)?[\s./-]+)?([\p{L}]{3,10})\.?[\s,./'’-]*(?:(\d{1,2})(?:st|nd|rd|th)?,\s+)?(\d{4}|\d{2})$/u.exec(
      text,
    );
  const turned = match ? null : /^(\d{4})[\s./-]+([\p{L}]{3,10})$/u.exec(text);
  const name = match?.[2] ?? turned?.[2];
  const index = name === undefined ? undefined : monthIndexOf(name);
  return index === undefined
    ? undefined
    : dated(fullYear(match?.[4] ?? turned![1]!), index + 1, match?.[1] ?? match?.[3]);
}

function readSerial(text: string): ReadDate | undefined {
  const match = /^(\d{5})(?:\.\d+)?$/.exec(text);
  const serial = Number(match?.[1]);
  // 1954 to 2119: what an analyst may mean by a bare number.
  if (!match || serial < 20_000 || serial > 80_000) return undefined;
  return civil(SERIAL_EPOCH + serial);
}

function readFiscalPeriod(text: string, calendar: FiscalCalendar): ReadDate | undefined {
  const match =
    /^(?:P|Period |M)\s?(\d{1,2})[\s/._-]*(?:of\s+)?(?:FY|F)?\s?(\d{4}|\d{2})$/i.exec(text) ??
    turnedMatch(/^(?:FY|F)?\s?(\d{4}|\d{2})[\s/._-]*(?:P|Period |M)\s?(\d{1,2})$/i.exec(text));
  const period = Number(match?.[1]);
  if (!match || period < 1 || period > 12) return undefined;
  // "2025M07" is July, as statistics write it; "M07 FY25" is a period.
  if (/M/i.test(text.replace(/FY/i, "")) && !/F/i.test(text))
    return { month: monthOf(fullYear(match[2]!), period), day: null };
  return { month: fiscalYearStart(calendar, fullYear(match[2])) + period - 1, day: null };
}

function readQuarter(text: string, calendar: FiscalCalendar): ReadDate | undefined {
  const match =
    /^Q\s?([1-4])[\s/._-]*(FY|F)?\s?(\d{4}|\d{2})$/i.exec(text) ??
    (([all, fiscal, year, quarter] = []) => (all ? [all, quarter, fiscal, year] : null))(
      /^(FY|F)?\s?(\d{4}|\d{2})[\s/._-]*Q\s?([1-4])$/i.exec(text) ?? [],
    );
  if (!match) return undefined;
  const year = fullYear(match[3]!);
  const start = match[2] ? fiscalYearStart(calendar, year) : monthOf(year, 1);
  return { month: start + (Number(match[1]) - 1) * 3, day: null };
}

function turnedMatch(match: RegExpExecArray | null): [string, string, string] | null {
  return match ? [match[0], match[2]!, match[1]!] : null;
}

function fullYear(text: string): number {
  return text.length === 4 ? Number(text) : 2000 + Number(text);
}

function dated(year: number, monthOfYear: number, dayText: string | undefined): ReadDate | undefined {
  if (monthOfYear < 1 || monthOfYear > 12 || year < 1900 || year > 2200) return undefined;
  const month = monthOf(year, monthOfYear);
  if (dayText === undefined) return { month, day: null };
  const day = Number(dayText);
  return day >= 1 && day <= daysInMonth(month) ? { month, day } : undefined;
}

/** Days since 1970-01-01 of a civil date (Hinnant, "chrono-compatible low-level date algorithms", 2013). */
function daysSinceEpoch(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return (
    era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
  );
}

function civil(days: number): ReadDate {
  // Months are few: step from an estimate rather than invert the formula.
  let month = monthOf(1970, 1) + Math.floor(days / 30.4375);
  const first = (m: Month) => daysSinceEpoch(Math.floor(m / 12), (m % 12) + 1, 1);
  while (first(month) > days) month -= 1;
  while (first(month + 1) <= days) month += 1;
  return { month, day: days - first(month) + 1 };
}
