import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { priorPeriodShift, spanMonths, type Span } from "../calendar/span.ts";
import { asOfDay, type CoverageMap } from "../cube/coverage.ts";
import type { TimeStep } from "../formula/view.ts";

/** A stretch of time to gather: a span around an as-of month. */
export interface Window {
  readonly span: Span;
  readonly asOf: Month;
  /** Month to date: the last day counted in each month. */
  readonly throughDay?: number;
}

/** The window of a single month. */
export function monthWindow(month: Month): Window {
  return { span: { kind: "month" }, asOf: month };
}

/** The window of several months in a row. */
export function rangeWindow(months: readonly Month[]): Window {
  return { span: { kind: "trailing", periods: months.length }, asOf: months.at(-1)! };
}

/** The window of a span around an as-of month; month to date counts to the last day that has figures. */
export function spanWindow(coverage: CoverageMap, span: Span, asOf: Month): Window {
  return span.kind === "month-to-date" ? { span, asOf, throughDay: asOfDay(coverage, asOf) } : { span, asOf };
}

/** The months of a window, in calendar order. */
export function windowMonths(calendar: FiscalCalendar, { span, asOf }: Window): Month[] {
  return spanMonths(calendar, span, asOf);
}

/** The window that steps lead to, and whether it must be covered to its last month. */
export function stepWindow(
  window: Window,
  steps: readonly TimeStep[],
  { coverage, calendar }: { coverage: CoverageMap; calendar: FiscalCalendar },
): { window: Window; isWhole: boolean } {
  let at = window;
  let isWhole = false;
  for (const step of steps) {
    switch (step.do) {
      case "span":
        at =
          step.span.kind === "month-to-date" && at.throughDay !== undefined
            ? { ...at, span: step.span }
            : spanWindow(coverage, step.span, at.asOf);
        isWhole ||= step.whole;
        break;
      case "back":
        at = { ...at, asOf: at.asOf - step.months };
        break;
      case "prior-period":
        at = { ...at, asOf: at.asOf - priorPeriodShift(at.span) };
        break;
      case "first":
        at = monthWindow(windowMonths(calendar, at)[0]!);
        break;
      case "last":
        at = monthWindow(windowMonths(calendar, at).at(-1)!);
        break;
    }
  }
  return { window: at, isWhole };
}
