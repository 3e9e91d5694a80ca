import { fiscalYearName, fiscalYearOf, type FiscalCalendar } from "../../calendar/fiscal-calendar.ts";
import { daysInMonth, monthName, type Month } from "../../calendar/month.ts";
import { daysOfMonth } from "../../formats/day-words.ts";
import type { TileFigureKind } from "./figure-kinds.ts";

/** What a tile's small figure is of, in words that cannot be taken for another span; `day` is the last that counts. */
export function tileFigureName(kind: TileFigureKind, calendar: FiscalCalendar, asOf: Month, day: number): string {
  const year = fiscalYearName(fiscalYearOf(calendar, asOf));
  switch (kind) {
    case "month":
      return monthName(asOf);
    case "month-to-date":
      return daysOfMonth({ month: asOf, day: Math.min(day, daysInMonth(asOf)) });
    case "same-day":
      return daysOfMonth({ month: asOf - 1, day: Math.min(day, daysInMonth(asOf - 1)) });
    case "year-to-date":
      return `${year} to date`;
    case "prior-year":
      return "Prior year";
    case "run-rate-month":
      return `Run rate, ${monthName(asOf)}`;
    case "run-rate-year":
      return `Run rate, ${year}`;
    case "outlook":
      return `Outlook, ${year}`;
  }
}

/** Whether a small figure is the past that the actual is held against; the others are held against the basis. */
export function isPast(kind: TileFigureKind): boolean {
  return kind === "same-day" || kind === "prior-year";
}
