import { fiscalYearStart, type FiscalCalendar } from "../../calendar/fiscal-calendar.ts";
import { monthOf, type Month } from "../../calendar/month.ts";
import { monthIndexOf } from "../month-names.ts";

/**
 * What a text says of a time, which may be a part only: "Jan" says a month and no year, "FY25" a fiscal year and no month.
 * Parts of several texts, such as the levels of a header, are put together.
 */
export interface PeriodParts {
  readonly year?: number | undefined;
  /** Whether the year is a fiscal one, named by the calendar year in which it ends. */
  readonly isFiscal?: boolean | undefined;
  /** 1 to 12, January to December. */
  readonly month?: number | undefined;
  /** 1 to 12, from the first month of the fiscal year. */
  readonly ordinal?: number | undefined;
  readonly quarter?: number | undefined;
  readonly day?: number | undefined;
}

interface Rule {
  readonly pattern: RegExp;
  /** What the groups say; `undefined` where they say nothing after all. */
  readonly parts: (groups: readonly string[]) => PeriodParts | undefined;
}

const [START, END] = ["(?<![\\p{L}\\d])", "(?![\\p{L}\\d])"];
const word = (source: string) => new RegExp(`${START}${source}${END}`, "iu");
const YEAR = "((?:19|20)\\d\\d)";
const MONTH = "(0?[1-9]|1[0-2])";
const DAY = "(0?[1-9]|[12]\\d|3[01])";
const fullYear = (text: string) => (text.length === 4 ? Number(text) : 2000 + Number(text));
/** What fiscal years are called before their number. */
const FISCAL = "(?:FY|F|GJ|AJ|WJ|Geschäftsjahr|Fiscal year|Financial year|Exercice)";

const named = (text: string): number | undefined => {
  const index = monthIndexOf(text);
  return index === undefined ? undefined : index + 1;
};

/** Ways to write times, the more telling ones first. */
const RULES: readonly Rule[] = [
  {
    pattern: word(`${YEAR}[-/.]${MONTH}[-/.]${DAY}`),
    parts: ([y, m, d]) => ({ year: Number(y), month: Number(m), day: Number(d) }),
  },
  {
    pattern: word(`${DAY}[-/.]${MONTH}[-/.]${YEAR}`),
    parts: ([d, m, y]) => ({ year: Number(y), month: Number(m), day: Number(d) }),
  },
  // "2025.007" and "007.2025": periods as accounting systems number them, with a nought in front.
  {
    pattern: word(`${YEAR}[./-]0(0[1-9]|1[0-2])`),
    parts: ([y, p]) => ({ year: Number(y), isFiscal: true, ordinal: Number(p) }),
  },
  {
    pattern: word(`0(0[1-9]|1[0-2])[./-]${YEAR}`),
    parts: ([p, y]) => ({ year: Number(y), isFiscal: true, ordinal: Number(p) }),
  },
  {
    pattern: word(`${YEAR}(?:[-/.]|\\s?M)${MONTH}`),
    parts: ([y, m]) => ({ year: Number(y), month: Number(m) }),
  },
  {
    pattern: word(`${MONTH}[-/.]${YEAR}`),
    parts: ([m, y]) => ({ year: Number(y), month: Number(m) }),
  },
  {
    pattern: word(`${YEAR}(0[1-9]|1[0-2])`),
    parts: ([y, m]) => ({ year: Number(y), month: Number(m) }),
  },
  {
    pattern: word(`${FISCAL}?\\s?'?(\\d{4}|\\d{2})[\\s/._-]*(?:P|Per(?:iode?|\\.)?)\\s?(0?[1-9]|1[0-2])`),
    parts: ([y, p]) => ({ year: fullYear(y!), isFiscal: true, ordinal: Number(p) }),
  },
  {
    pattern: word(`(?:P|Per(?:iode?|\\.)?)\\s?(0?[1-9]|1[0-2])[\\s/._-]*(?:of\\s+)?${FISCAL}?\\s?'?(\\d{4}|\\d{2})`),
    parts: ([p, y]) => ({ year: fullYear(y!), isFiscal: true, ordinal: Number(p) }),
  },
  { pattern: word("(?:P|Per(?:iode?|\\.)?)\\s?(0?[1-9]|1[0-2])"), parts: ([p]) => ({ ordinal: Number(p) }) },
  { pattern: word("M(0[1-9]|1[0-2])"), parts: ([m]) => ({ month: Number(m) }) },
  {
    pattern: word("Q([1-4])\\s?[/-]\\s?(\\d{2})"),
    parts: ([q, y]) => ({ quarter: Number(q), year: fullYear(y!) }),
  },
  {
    pattern: word("(?:Q|T|KQ|Qtr\\s?|Quarter\\s?|Quartal\\s?|Trimestre\\s?)([1-4])"),
    parts: ([q]) => ({ quarter: Number(q) }),
  },
  { pattern: word("([1-4])\\.?\\s?(?:Q|Qtr|Quarter|Quartal|T|Trimestre)"), parts: ([q]) => ({ quarter: Number(q) }) },
  {
    pattern: new RegExp(`${START}(\\p{L}{3,10})\\.?[\\s/-]*['’]?(\\d{2})${END}`, "iu"),
    parts: ([name, y]) => {
      const month = named(name!);
      return month === undefined ? undefined : { month, year: fullYear(y!) };
    },
  },
  {
    pattern: word(`${YEAR}\\s?/\\s?(\\d{2}|\\d{4})`),
    parts: ([from, to]) => {
      const [start, end] = [
        Number(from),
        to!.length === 4 ? Number(to) : Math.floor(Number(from) / 100) * 100 + Number(to),
      ];
      return end === start + 1 ? { year: end, isFiscal: true } : undefined;
    },
  },
  { pattern: word(`${FISCAL}\\s?'?(\\d{4}|\\d{2})`), parts: ([y]) => ({ year: fullYear(y!), isFiscal: true }) },
  { pattern: word(YEAR), parts: ([y]) => ({ year: Number(y) }) },
];

/** What a text says of a time, and what else it says. `parts` is empty where it says none. */
export function readPeriodParts(text: string): { readonly parts: PeriodParts; readonly rest: string } {
  let parts: PeriodParts = {};
  let rest = text;
  for (const { pattern, parts: read } of RULES) {
    const match = pattern.exec(rest);
    if (!match) continue;
    const found = read(match.slice(1));
    if (!found || clashes(parts, found)) continue;
    parts = { ...found, ...parts };
    rest = `${rest.slice(0, match.index)} ${rest.slice(match.index + match[0].length)}`;
  }
  if (parts.month === undefined && parts.ordinal === undefined)
    for (const [name] of rest.matchAll(/\p{L}{3,10}/gu)) {
      const month = named(name);
      if (month === undefined) continue;
      parts = { ...parts, month };
      rest = rest.replace(name, " ");
      break;
    }
  return { parts, rest: rest.replace(/\s+/g, " ").trim() };
}

/** Whether two texts say different things of one part. */
export function clashes(one: PeriodParts, other: PeriodParts): boolean {
  return (["year", "month", "ordinal", "quarter", "day"] as const).some(
    (key) => one[key] !== undefined && other[key] !== undefined && one[key] !== other[key],
  );
}

/** Whether a text says nothing of any time. */
export function isTimeless(parts: PeriodParts): boolean {
  return Object.values(parts).every((value) => value === undefined);
}

/** Whether parts say which month of a year they are of, though perhaps not which year. */
export function saysMonth({ month, ordinal }: PeriodParts): boolean {
  return month !== undefined || ordinal !== undefined;
}

/** The month that parts come to; the first month where they name a quarter. `undefined` where the year or the month lacks. */
export function monthOfParts(parts: PeriodParts, calendar: FiscalCalendar): Month | undefined {
  const { year, isFiscal, month, ordinal, quarter } = parts;
  if (year === undefined) return undefined;
  if (ordinal !== undefined) return fiscalYearStart(calendar, year) + ordinal - 1;
  if (month !== undefined) {
    if (!isFiscal) return monthOf(year, month);
    const start = fiscalYearStart(calendar, year);
    return start + ((month - 1 - (start % 12) + 12) % 12);
  }
  if (quarter !== undefined) return (isFiscal ? fiscalYearStart(calendar, year) : monthOf(year, 1)) + (quarter - 1) * 3;
  return undefined;
}
