import { monthName, monthOfYear, monthOf, yearOf, type Month } from "./month.ts";

/** A fiscal calendar of whole months; `startMonth` (1 to 12) opens the fiscal year. */
export interface FiscalCalendar {
  readonly startMonth: number;
  /** The first day of a week, 1 (Monday) to 7 (Sunday); Monday where it is left out. */
  readonly weekStart?: number | undefined;
  /** Whether dates in files that could be read either way begin with the month. */
  readonly isMonthFirst?: boolean | undefined;
}

/** The fiscal year of a month, named by the calendar year in which it ends. */
export function fiscalYearOf(calendar: FiscalCalendar, month: Month): number {
  const opensLater = calendar.startMonth > 1 && monthOfYear(month) >= calendar.startMonth;
  return yearOf(month) + (opensLater ? 1 : 0);
}

/** The first month of a fiscal year. */
export function fiscalYearStart(calendar: FiscalCalendar, fiscalYear: number): Month {
  return monthOf(calendar.startMonth > 1 ? fiscalYear - 1 : fiscalYear, calendar.startMonth);
}

/** The month's place in its fiscal year, 1 to 12. */
export function fiscalPeriodOf(calendar: FiscalCalendar, month: Month): number {
  return month - fiscalYearStart(calendar, fiscalYearOf(calendar, month)) + 1;
}

/** The first month of the fiscal quarter a month lies in. */
export function fiscalQuarterStart(calendar: FiscalCalendar, month: Month): Month {
  return month - ((fiscalPeriodOf(calendar, month) - 1) % 3);
}

/** "FY27" for the fiscal year that ends in calendar year 2027. */
export function fiscalYearName(fiscalYear: number): string {
  return `FY${String(fiscalYear % 100).padStart(2, "0")}`;
}

/** "October FY27": a month by its name and fiscal year. */
export function periodName(calendar: FiscalCalendar, month: Month): string {
  return `${monthName(month)} ${fiscalYearName(fiscalYearOf(calendar, month))}`;
}

/** "April–October FY27", "November FY26–October FY27" or one month's name. */
export function rangeName(calendar: FiscalCalendar, from: Month, to: Month): string {
  if (from === to) return periodName(calendar, from);
  const sameYear = fiscalYearOf(calendar, from) === fiscalYearOf(calendar, to);
  return `${sameYear ? monthName(from) : periodName(calendar, from)}–${periodName(calendar, to)}`;
}

/** "April to September", or with years where they lie outside the fiscal year of `asOf`: months as a sentence has them. */
export function monthsPhrase(calendar: FiscalCalendar, months: readonly Month[], asOf: Month): string {
  const year = fiscalYearOf(calendar, asOf);
  const isSameYear = months.every((month) => fiscalYearOf(calendar, month) === year);
  const phrase = monthsName(calendar, months).replaceAll("–", " to ");
  return isSameYear ? phrase.replaceAll(` ${fiscalYearName(year)}`, "") : phrase;
}

/** Names a set of months as its unbroken ranges: "April–June FY27 and October FY27". */
export function monthsName(calendar: FiscalCalendar, months: readonly Month[]): string {
  const sorted = [...months].sort((a, b) => a - b);
  const ranges: [Month, Month][] = [];
  for (const month of sorted) {
    const last = ranges.at(-1);
    if (last && month <= last[1] + 1) last[1] = month;
    else ranges.push([month, month]);
  }
  return ranges.map(([from, to]) => rangeName(calendar, from, to)).join(" and ");
}
