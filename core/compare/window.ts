import { LAST_DAY, type Day, type DayRange } from "../calendar/days.ts";
import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { formatSpan, priorPeriodShift, spanMonths, wholeSpanMonths, type Span } from "../calendar/span.ts";
import { asOfDay, type CoverageMap } from "../cube/coverage.ts";
import type { Frame } from "./frame.ts";
import type { TimeStep } from "../formula/view.ts";

/** A stretch of time to gather: the months that a span formed around an as-of month, perhaps shifted since. */
export interface Window {
  readonly span: Span;
  readonly asOf: Month;
  /** The first and last month; `to` lies before `from` where there is none. */
  readonly from: Month;
  readonly to: Month;
  /** Month to date: the last day counted in each month. */
  readonly throughDay?: number;
  /** Of days: the first one counted in the first month, and the last one in the last. */
  readonly days?: DayRange;
}

/** What windows are formed with. */
interface Almanac {
  readonly calendar: FiscalCalendar;
  readonly coverage: CoverageMap;
}

const SINGLE: Span = { kind: "month" };

/** The window of a single month. */
export function monthWindow(month: Month): Window {
  return { span: SINGLE, asOf: month, from: month, to: month };
}

/** The window from one day to another; only daily facts have figures there. */
export function dayWindow(first: Day, last: Day): Window {
  const { month: from, day } = first;
  return {
    span: { kind: "month" },
    asOf: last.month,
    from,
    to: last.month,
    days: { from: day, to: last.day },
  };
}

/** The days of one of a window's months that count; `undefined` where the month is whole. */
export function daysIn({ throughDay, days, from, to }: Window, month: Month): DayRange | undefined {
  if (days) return { from: month === from ? days.from : 1, to: month === to ? days.to : LAST_DAY };
  return throughDay === undefined ? undefined : { from: 1, to: Math.min(throughDay, LAST_DAY) };
}

/** The window of several months in a row; they must not be empty. */
export function rangeWindow(months: readonly Month[]): Window {
  const [from, to] = [months[0]!, months.at(-1)!];
  return { span: { kind: "trailing", periods: months.length }, asOf: to, from, to };
}

/**
 * The window of a span as of a month, as far as that month; month to date counts to the last day that has figures. Of a
 * version in the place of the actual the months to come are known: its spans go to their end.
 */
export function spanWindow(
  { calendar, coverage, shown }: Almanac & { readonly shown?: string | undefined },
  span: Span,
  asOf: Month,
): Window {
  const months = frameMonths(calendar, { span, asOf, ...(shown === undefined ? {} : { shown }) });
  return {
    ...windowOver(span, asOf, months),
    ...(span.kind === "month-to-date" ? { throughDay: asOfDay(coverage, asOf) } : {}),
  };
}

/** The months of a frame's span: as far as its as-of month, or to its end where a version is looked at. */
export function frameMonths(
  calendar: FiscalCalendar,
  { span, asOf, shown }: Pick<Frame, "span" | "asOf" | "shown">,
): Month[] {
  return shown !== undefined && span.kind !== "month-to-date"
    ? wholeSpanMonths(calendar, span, asOf)
    : spanMonths(calendar, span, asOf);
}

/** The window of a span to its end, past the as-of month: for plans, and for years that are over. */
export function wholeWindow({ calendar }: Pick<Almanac, "calendar">, span: Span, asOf: Month): Window {
  return windowOver(span, asOf, wholeSpanMonths(calendar, span, asOf));
}

function windowOver(span: Span, asOf: Month, months: readonly Month[]): Window {
  return { span, asOf, from: months[0] ?? asOf, to: months.at(-1) ?? asOf - 1 };
}

/** The months of a window, in calendar order. */
export function windowMonths({ from, to }: Window): readonly Month[] {
  return monthsBetween(from, to);
}

/** What kind of window it is: inputs on windows of one kind are measured on the same of their months. */
export function windowKind({ span, days }: Window): string {
  return days ? "days" : formatSpan(span);
}

/** How the steps of a formula lead from one window to another. */
interface Stepping extends Almanac {
  /** Whether spans are formed to their end: for plans, whose months to come are known. */
  readonly isPlan: boolean;
}

/** The window that steps lead to, and whether it must be covered to its last month. */
export function stepWindow(
  window: Window,
  steps: readonly TimeStep[],
  stepping: Stepping,
): { window: Window; isWhole: boolean } {
  // No step leads past the month that the whole question is asked as of.
  const ceiling = window.asOf;
  let at = window;
  let isWhole = false;
  for (const [i, step] of steps.entries()) {
    switch (step.do) {
      case "span":
        at = formSpan(at, step.span, ceiling, stepping);
        isWhole ||= step.whole;
        break;
      case "back":
        at = shiftWindow(at, step.months);
        break;
      case "prior-period":
        at = shiftWindow(at, priorPeriodShift(namedAfter(steps, i) ?? at.span));
        break;
      case "first":
        at = monthWindow(at.from);
        break;
      case "last":
        at = monthWindow(at.to);
        break;
    }
  }
  return { window: at, isWhole };
}

/** The span that a formula names for what a step is taken of: the prior period of a month is the month before, in any frame. */
function namedAfter(steps: readonly TimeStep[], place: number): Span | undefined {
  return steps.slice(place + 1).flatMap((step) => (step.do === "span" ? [step.span] : []))[0];
}

/** The same months a number of months earlier. */
function shiftWindow(window: Window, months: number): Window {
  return { ...window, asOf: window.asOf - months, from: window.from - months, to: window.to - months };
}

function formSpan(at: Window, span: Span, ceiling: Month, { isPlan, ...almanac }: Stepping): Window {
  if (span.kind === "month-to-date") {
    const own = spanWindow(almanac, span, at.asOf);
    return at.throughDay === undefined ? own : { ...own, throughDay: at.throughDay };
  }
  const whole = wholeWindow(almanac, span, at.asOf);
  return isPlan ? whole : { ...whole, to: Math.min(whole.to, Math.max(ceiling, at.asOf)) };
}
