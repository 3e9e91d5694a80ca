import { daysInMonth, formatMonth, monthOf, parseMonth, yearOf, type Month } from "./month.ts";

/** Days of a month, both ends included. */
export interface DayRange {
  readonly from: number;
  readonly to: number;
}

/** A day: its month and its place in it, from 1. */
export interface Day {
  readonly month: Month;
  readonly day: number;
}

/** The last day that a month can have. */
export const LAST_DAY = 31;

/** "2026-10-14" */
export function formatDay({ month, day }: Day): string {
  return `${formatMonth(month)}-${String(day).padStart(2, "0")}`;
}

/** Reads "2026-10-14"; `undefined` where it is no day. */
export function parseDay(text: string): Day | undefined {
  const match = /^(\d{4}-\d{2})-(\d{2})$/.exec(text);
  const month = match ? parseMonth(match[1]!) : undefined;
  const day = Number(match?.[2]);
  return month !== undefined && day >= 1 && day <= daysInMonth(month) ? { month, day } : undefined;
}

/** All days of the months, in order. */
export function daysOf(months: readonly Month[]): Day[] {
  return months.flatMap((month) => Array.from({ length: daysInMonth(month) }, (_, i) => ({ month, day: i + 1 })));
}

/** The day of the week, 1 for Monday to 7 for Sunday (ISO 8601). */
export function weekday({ month, day }: Day): number {
  return ((dayNumber({ month, day }) + 3) % 7) + 1;
}

/** The week that a day lies in by ISO 8601: it belongs to the year of its Thursday. */
export function isoWeek(day: Day): { year: number; week: number } {
  const thursday = dayNumber(day) - weekday(day) + 4;
  const around = yearOf(day.month);
  const year = thursday < newYear(around) ? around - 1 : thursday >= newYear(around + 1) ? around + 1 : around;
  return { year, week: Math.floor((thursday - newYear(year)) / 7) + 1 };
}

function newYear(year: number): number {
  return dayNumber({ month: monthOf(year, 1), day: 1 });
}

/** Easter Sunday of a year of the Gregorian calendar (the anonymous algorithm of 1876, as Meeus 1991 has it). */
export function easterSunday(year: number): Day {
  const a = year % 19;
  const [b, c] = [Math.floor(year / 100), year % 100];
  const d = (19 * a + b - Math.floor(b / 4) - Math.floor((b - Math.floor((b + 8) / 25) + 1) / 3) + 15) % 30;
  const e = (32 + 2 * (b % 4) + 2 * Math.floor(c / 4) - d - (c % 4)) % 7;
  const f = d + e - 7 * Math.floor((a + 11 * d + 22 * e) / 451) + 114;
  return { month: monthOf(year, Math.floor(f / 31)), day: (f % 31) + 1 };
}

/** Days since 1 January 1970, which was a Thursday, by the Gregorian calendar. */
export function dayNumber({ month, day }: Day): number {
  // Years that begin in March have their odd day at the end.
  const shifted = month - 2;
  const year = Math.floor(shifted / 12);
  const inYear = Math.floor((153 * (shifted - 12 * year) + 2) / 5) + day - 1;
  return 365 * year + Math.floor(year / 4) - Math.floor(year / 100) + Math.floor(year / 400) + inYear - 719_468;
}

/** The day that lies so many days after 1 January 1970. */
export function dayOfNumber(number: number): Day {
  // The length of a year is 365.2425 days, so that the guess is at most a month off.
  const guess = monthOf(1970, 1) + Math.floor((number + 0.5) / 30.436875);
  const month = [guess + 1, guess, guess - 1].find((own) => dayNumber({ month: own, day: 1 }) <= number) ?? guess - 2;
  return { month, day: number - dayNumber({ month, day: 1 }) + 1 };
}
