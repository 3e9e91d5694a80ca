import { fiscalQuarterStart, fiscalYearOf, fiscalYearStart, type FiscalCalendar } from "./fiscal-calendar.ts";
import { formatMonth, monthsBetween, parseMonth, type Month } from "./month.ts";

/** How time is gathered around an as-of month. */
export type Span =
  | { readonly kind: "month" | "quarter" | "quarter-to-date" | "year-to-date" | "full-year" | "month-to-date" }
  | { readonly kind: "trailing"; readonly periods: number }
  /** From one month to another, told as months before the as-of month; below 0 they come after it. */
  | { readonly kind: "window"; readonly from: number; readonly to: number };

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

/** The longest window from one month to another: twenty years. */
export const MAX_WINDOW_MONTHS = 240;

/** Reads "2025-11..2026-04": both months belong to it. `undefined` when it is no window. */
export function parseWindow(text: string): { from: Month; to: Month } | undefined {
  const [from, to, ...rest] = text.split("..").map(parseMonth);
  return from !== undefined && to !== undefined && rest.length === 0 ? { from, to } : undefined;
}

/** The span from one month to another, as of a month. */
export function windowSpan({ from, to }: { from: Month; to: Month }, asOf: Month): Span {
  return { kind: "window", from: asOf - from, to: asOf - to };
}

/** Writes a span of an as-of month as an address has it: in the form `parseSpan` or `parseWindow` reads. */
export function formatSpanAt(span: Span, asOf: Month): string {
  return span.kind === "window" ? `${formatMonth(asOf - span.from)}..${formatMonth(asOf - span.to)}` : formatSpan(span);
}

/** Names a span apart from every other. All but windows are in the form `parseSpan` reads. */
export function formatSpan(span: Span): string {
  if (span.kind === "window") return `window-${span.from}-${span.to}`;
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
    case "window":
      return monthsBetween(asOf - span.from, asOf - span.to);
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
    case "window":
      return span.from - span.to + 1;
  }
}

/** Whether a span goes on after its as-of month. */
export function isOpenSpan(calendar: FiscalCalendar, span: Span, asOf: Month): boolean {
  return spanMonths(calendar, span, asOf).length < wholeSpanMonths(calendar, span, asOf).length;
}

/** The span in the words of the frame sentence; a year that is not over is no full year. */
export function spanName(span: Span, isOpen = false): string {
  if (span.kind === "full-year" && isOpen) return "year so far";
  if (span.kind === "window") return span.from === span.to ? "one month" : `${span.from - span.to + 1} months`;
  if (span.kind === "trailing")
    return span.periods === 12 ? "trailing twelve months" : `trailing ${span.periods} months`;
  return span.kind.replaceAll("-", " ");
}
