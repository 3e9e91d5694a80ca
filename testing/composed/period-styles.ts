import { fiscalPeriodOf, fiscalYearOf, type FiscalCalendar } from "#core/calendar/fiscal-calendar.ts";
import { daysInMonth, monthName, monthOfYear, yearOf, type Month } from "#core/calendar/month.ts";
import type { Language } from "./table-truth.ts";

const NAMES: Readonly<Record<Language, readonly string[]>> = {
  en: Array.from({ length: 12 }, (_, i) => monthName(i)),
  de: "Januar Februar März April Mai Juni Juli August September Oktober November Dezember".split(" "),
  fr: "janvier février mars avril mai juin juillet août septembre octobre novembre décembre".split(" "),
};

export const nameOf = (language: Language, month: Month) => NAMES[language][monthOfYear(month) - 1]!;
const short = (language: Language, month: Month) =>
  language === "fr" ? nameOf(language, month) : nameOf(language, month).slice(0, 3);
const two = (value: number) => String(value).padStart(2, "0");

/** Ways to write a month in one text. */
export const WHOLE_PERIODS = {
  "Jan 2025": (m, l) => `${short(l, m)} ${yearOf(m)}`,
  "January 2025": (m, l) => `${nameOf(l, m)} ${yearOf(m)}`,
  "Jan-25": (m, l) => `${short(l, m)}-${two(yearOf(m) % 100)}`,
  "Jan '25": (m, l) => `${short(l, m)} '${two(yearOf(m) % 100)}`,
  "2025-01": (m) => `${yearOf(m)}-${two(monthOfYear(m))}`,
  "2025/01": (m) => `${yearOf(m)}/${two(monthOfYear(m))}`,
  "01.2025": (m) => `${two(monthOfYear(m))}.${yearOf(m)}`,
  "01/2025": (m) => `${two(monthOfYear(m))}/${yearOf(m)}`,
  "202501": (m) => `${yearOf(m)}${two(monthOfYear(m))}`,
  "2025M01": (m) => `${yearOf(m)}M${two(monthOfYear(m))}`,
  "31.01.2025": (m) => `${daysInMonth(m)}.${two(monthOfYear(m))}.${yearOf(m)}`,
  "2025-01-31": (m) => `${yearOf(m)}-${two(monthOfYear(m))}-${daysInMonth(m)}`,
  "P01 FY25": (m, _l, c) => `P${two(fiscalPeriodOf(c, m))} FY${two(fiscalYearOf(c, m) % 100)}`,
  "FY2025 P01": (m, _l, c) => `FY${fiscalYearOf(c, m)} P${two(fiscalPeriodOf(c, m))}`,
  "2025.007": (m, _l, c) => `${fiscalYearOf(c, m)}.${String(fiscalPeriodOf(c, m)).padStart(3, "0")}`,
} as const satisfies Readonly<Record<string, (month: Month, language: Language, calendar: FiscalCalendar) => string>>;

/** Ways to write a year and what it is divided into in two texts. */
export const PARTED_PERIODS = {
  "2025 | Jan": (m, l) => [`${yearOf(m)}`, short(l, m)],
  "2025 | January": (m, l) => [`${yearOf(m)}`, nameOf(l, m)],
  "2025 | 1": (m) => [`${yearOf(m)}`, `${monthOfYear(m)}`],
  "FY25 | Jan": (m, l, c) => [`FY${two(fiscalYearOf(c, m) % 100)}`, short(l, m)],
  "FY2025 | P01": (m, _l, c) => [`FY${fiscalYearOf(c, m)}`, `P${two(fiscalPeriodOf(c, m))}`],
  "2024/25 | 7": (m, _l, c) => [
    c.startMonth === 1 ? `${yearOf(m)}` : `${fiscalYearOf(c, m) - 1}/${two(fiscalYearOf(c, m) % 100)}`,
    `${fiscalPeriodOf(c, m)}`,
  ],
  "Q1 2025 | Jan": (m, l) => [`Q${Math.floor((monthOfYear(m) - 1) / 3) + 1} ${yearOf(m)}`, short(l, m)],
} as const satisfies Readonly<
  Record<string, (month: Month, language: Language, calendar: FiscalCalendar) => readonly [string, string]>
>;

const quarterOf = (m: Month) => Math.floor((monthOfYear(m) - 1) / 3) + 1;
const fiscalQuarterOf = (c: FiscalCalendar, m: Month) => Math.floor((fiscalPeriodOf(c, m) - 1) / 3) + 1;

/** Ways to write a quarter. */
export const QUARTERS = {
  "Q1 2025": (m) => `Q${quarterOf(m)} ${yearOf(m)}`,
  "2025 Q1": (m) => `${yearOf(m)} Q${quarterOf(m)}`,
  "2025-Q1": (m) => `${yearOf(m)}-Q${quarterOf(m)}`,
  "Q1/25": (m) => `Q${quarterOf(m)}/${two(yearOf(m) % 100)}`,
  "Q1 FY25": (m, _l, c) => `Q${fiscalQuarterOf(c, m)} FY${two(fiscalYearOf(c, m) % 100)}`,
} as const satisfies Readonly<Record<string, (month: Month, language: Language, calendar: FiscalCalendar) => string>>;

export type Quarter = keyof typeof QUARTERS;

export type WholePeriod = keyof typeof WHOLE_PERIODS;
export type PartedPeriod = keyof typeof PARTED_PERIODS;

/** Parted ways that say a month only in a column that is called so: bare numbers. */
export const NUMBERED: readonly PartedPeriod[] = ["2025 | 1", "2024/25 | 7"];
