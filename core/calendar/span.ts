import { fiscalQuarterStart, fiscalYearOf, fiscalYearStart, type FiscalCalendar } from "./fiscal-calendar.ts";
import { monthsBetween, type Month } from "./month.ts";

/** How time is gathered around an as-of month. */
export type Span =
  | { readonly kind: "month" | "quarter" | "quarter-to-date" | "year-to-date" | "full-year" | "month-to-date" }
  | { readonly kind: "trailing"; readonly periods: number };

/** The longest trailing span: ten years of months. */
export const MAX_TRAILING_PERIODS = 120;

const PLAIN_KINDS = ["month", "quarter", "quarter-to-date", "year-to-date", "full-year", "month-to-date"] as const;

/** Reads "year-to-date", "trailing-12" …; `undefined` when it is no span. */
export function parseSpan(text: string): Span | undefined {
  const kind = PLAIN_KINDS.find((k) => k === text);
  if (kind) return { kind };
  const match = /^trailing-([1-9]\d{0,2})$/.exec(text);
  const periods = match ? Number(match[1]) : 0;
  return periods >= 1 && periods <= MAX_TRAILING_PERIODS ? { kind: "trailing", periods } : undefined;
}

/** Writes a span in the form `parseSpan` reads. */
export function formatSpan(span: Span): string {
  return span.kind === "trailing" ? `trailing-${span.periods}` : span.kind;
}

/**
 * The months a span asks for as of a month, in calendar order. The as-of month is a ceiling: quarter
 * and full year are as far as it, so that a review shows the same figures after the next month is
 * posted. Month to date is its one month; the day limit is the cell query's.
 */
export function spanMonths(calendar: FiscalCalendar, span: Span, asOf: Month): Month[] {
  return wholeSpanMonths(calendar, span, asOf).filter((month) => month <= asOf);
}

/** The months of a span to its end, those after the as-of month included: what a plan has of it. */
export function wholeSpanMonths(calendar: FiscalCalendar, span: Span, asOf: Month): Month[] {
  const yearStart = fiscalYearStart(calendar, fiscalYearOf(calendar, asOf));
  const quarterStart = fiscalQuarterStart(calendar, asOf);
  switch (span.kind) {
    case "month":
    case "month-to-date":
      return [asOf];
    case "quarter":
      return monthsBetween(quarterStart, quarterStart + 2);
    case "quarter-to-date":
      return monthsBetween(quarterStart, asOf);
    case "year-to-date":
      return monthsBetween(yearStart, asOf);
    case "full-year":
      return monthsBetween(yearStart, yearStart + 11);
    case "trailing":
      return monthsBetween(asOf - span.periods + 1, asOf);
  }
}

/** How many months back the span of the same kind just before begins. */
export function priorPeriodShift(span: Span): number {
  switch (span.kind) {
    case "month":
    case "month-to-date":
      return 1;
    case "quarter":
    case "quarter-to-date":
      return 3;
    case "year-to-date":
    case "full-year":
      return 12;
    case "trailing":
      return span.periods;
  }
}

/** The span in the words of the frame sentence. */
export function spanName(span: Span): string {
  if (span.kind === "trailing")
    return span.periods === 12 ? "trailing twelve months" : `trailing ${span.periods} months`;
  return span.kind.replaceAll("-", " ");
}
