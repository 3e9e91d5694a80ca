import { easterSunday } from "#core/calendar/days.ts";
import { daysInMonth, monthOfYear, yearOf, type Month } from "#core/calendar/month.ts";

const MONTH_LEVEL = [0.56, 0.58, 0.7, 0.9, 1.05, 1.28, 1.66, 1.7, 1.16, 0.92, 0.66, 0.72] as const;
const WEEKDAY_LEVEL = [1.08, 0.86, 0.84, 0.88, 0.96, 1.16, 1.22] as const;

/** Easter Sunday of a year (Meeus, Jones and Butcher), as days since 1970-01-01. */
export function easterDay(year: number): number {
  const { month, day } = easterSunday(year);
  return dayNumber(month, day);
}

/** Days since 1970-01-01. */
export function dayNumber(month: Month, day: number): number {
  return Date.UTC(yearOf(month), monthOfYear(month) - 1, day) / 86_400_000;
}

/** How much travel a day sees, 1 being an average day: season, weekday and Easter. */
export function travelLevel(month: Month, day: number): number {
  const middle = (daysInMonth(month) + 1) / 2;
  const towards = day < middle ? month - 1 : month + 1;
  const weight = Math.abs(day - middle) / daysInMonth(month);
  const own = MONTH_LEVEL[monthOfYear(month) - 1]!;
  const season = own * (1 - weight) + MONTH_LEVEL[monthOfYear(towards) - 1]! * weight;
  const number = dayNumber(month, day);
  const weekday = WEEKDAY_LEVEL[(((number + 4) % 7) + 7) % 7]!;
  const fromEaster = Math.abs(number - easterDay(yearOf(month)));
  return season * weekday * (fromEaster <= 4 ? 1.55 : 1);
}
