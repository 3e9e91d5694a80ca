import { daysInMonth, formatMonth, monthOfYear, yearOf, type Month } from "./month.ts";

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
  const year = new Date(thursday * 86_400_000).getUTCFullYear();
  const first = Date.UTC(year, 0, 1) / 86_400_000;
  return { year, week: Math.floor((thursday - first) / 7) + 1 };
}

/** Days since 1 January 1970, which was a Thursday. */
function dayNumber({ month, day }: Day): number {
  return Date.UTC(yearOf(month), monthOfYear(month) - 1, day) / 86_400_000;
}
