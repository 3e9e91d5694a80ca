/**
 * A calendar month as the number of months since January of year 0
 * (2026-10 is 2026 · 12 + 9), so that periods shift and compare by arithmetic.
 */
export type Month = number;

const MONTH_NAMES = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;

/** The month `monthOfYear` (1 to 12) of a calendar year. */
export function monthOf(year: number, monthOfYear: number): Month {
  return year * 12 + monthOfYear - 1;
}

/** The calendar year a month lies in. */
export function yearOf(month: Month): number {
  return Math.floor(month / 12);
}

/** The month's place in its calendar year, 1 to 12. */
export function monthOfYear(month: Month): number {
  return (((month % 12) + 12) % 12) + 1;
}

/** Reads "2026-10"; `undefined` for anything else, months outside 01 to 12 included. */
export function parseMonth(text: string): Month | undefined {
  const match = /^(\d{4})-(0[1-9]|1[0-2])$/.exec(text);
  return match ? monthOf(Number(match[1]), Number(match[2])) : undefined;
}

/** Writes a month as "2026-10", the form `parseMonth` reads. */
export function formatMonth(month: Month): string {
  return `${String(yearOf(month)).padStart(4, "0")}-${String(monthOfYear(month)).padStart(2, "0")}`;
}

/** The month's English name without the year. */
export function monthName(month: Month): string {
  return MONTH_NAMES[monthOfYear(month) - 1]!;
}

/** Days in the month by the Gregorian calendar, 28 to 31. */
export function daysInMonth(month: Month): number {
  const m = monthOfYear(month);
  if (m === 2) {
    const year = yearOf(month);
    return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  }
  return m === 4 || m === 6 || m === 9 || m === 11 ? 30 : 31;
}

/** All months from `from` to `to`, both included; empty when `to` lies before `from`. */
export function monthsBetween(from: Month, to: Month): Month[] {
  return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
}
