import { formatDay, type Day } from "../calendar/days.ts";
import { monthName, yearOf } from "../calendar/month.ts";
import { writing } from "./writing.ts";

/** A day as its reader writes it: "30 November 2026", "November 30, 2026" or "2026-11-30". */
export function writeDay(day: Day): string {
  return dayWithin(day, String(yearOf(day.month)));
}

/** A day of a period that is named otherwise than by its year: "30 November FY27", "November 30, FY27". */
export function dayWithin(day: Day, year: string): string {
  const month = monthName(day.month);
  switch (writing().dates) {
    case "30 November 2026":
      return `${day.day} ${month} ${year}`;
    case "November 30, 2026":
      return `${month} ${day.day}, ${year}`;
    case "2026-11-30":
      return formatDay(day);
  }
}

/** A day of a year that is known: "30 Nov", "Nov 30" or "11-30". */
export function shortDay(day: Day): string {
  const month = monthName(day.month).slice(0, 3);
  switch (writing().dates) {
    case "30 November 2026":
      return `${day.day} ${month}`;
    case "November 30, 2026":
      return `${month} ${day.day}`;
    case "2026-11-30":
      return formatDay(day).slice(5);
  }
}

/** The first days of a month: "1–14 October" or "October 1–14". */
export function daysOfMonth({ month, day }: Day): string {
  return writing().dates === "30 November 2026" ? `1–${day} ${monthName(month)}` : `${monthName(month)} 1–${day}`;
}
