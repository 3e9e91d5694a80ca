import { fiscalYearOf, fiscalYearStart } from "../../calendar/fiscal-calendar.ts";
import { formatMonth, type Month } from "../../calendar/month.ts";
import { frameMonths, spanWindow, windowMonths, type Window } from "../../compare/window.ts";
import { requireKpi } from "../../frame/company.ts";
import { partOfPeriod, periodsOf, type Period } from "../../series/periods.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { levelMembers } from "../parts/repetition.ts";
import { scenarioSides } from "../parts/scenario-sides.ts";
import { hasTotals, type CrossAxis, type CrossGrain, type CrossEntry } from "./schema.ts";

/** An axis with its places and their windows. */
export interface CrossAxisEntries {
  readonly kind: CrossAxis["kind"];
  /** What a place along it is called: "route", "month". */
  readonly noun: string;
  readonly dimension: string | null;
  /** What the total over it is called; `null` where there is none. */
  readonly totalName: string | null;
  /** Whether the total is shown. */
  readonly hasTotal: boolean;
  readonly entries: readonly (CrossEntry & { readonly window: Window | null })[];
}

/** The places along an axis; the scenarios are those that any of the KPIs has. */
export function entriesOf(
  axis: CrossAxis,
  {
    kpis,
    last,
    below,
  }: { readonly kpis: readonly string[]; readonly last: number | undefined; readonly below: string | null },
  question: PanelQuestion,
): CrossAxisEntries {
  const hasTotal = hasTotals(axis) && axis.hasTotal;
  const nothing = { member: null, kpi: null, scenario: null, months: null, window: null };
  switch (axis.kind) {
    case "member": {
      const { members, level, dimension } = levelMembers(question, axis, below);
      const entries = members.map((member) => ({ ...nothing, key: member.key, name: member.name, member }));
      const totalName = `All ${dimension.plural}`;
      return { kind: axis.kind, noun: level, dimension: dimension.key, totalName, hasTotal, entries };
    }
    case "period": {
      const entries = periodsIn(axis.grain, last, question).map(({ key, name, short, window, from, to }) => ({
        ...nothing,
        key,
        name: axis.grain === "month" && isWithinAYear(question, last) ? short : name,
        months: monthsText(from, to),
        window,
      }));
      return { kind: axis.kind, noun: axis.grain, dimension: null, totalName: "All periods", hasTotal, entries };
    }
    case "kpi": {
      const entries = kpis.map((key) => ({
        ...nothing,
        key,
        name: requireKpi(question.company, key).definition.name,
        kpi: key,
      }));
      return { kind: axis.kind, noun: "KPI", dimension: null, totalName: null, hasTotal, entries };
    }
    case "scenario": {
      const sides = new Map(
        kpis.flatMap((key) =>
          scenarioSides(requireKpi(question.company, key), question).map((side) => [side.key, side.side.name] as const),
        ),
      );
      // The order of the code, whichever KPI brought which of them.
      const entries = (["actual", "budget", "forecast", "target", "prior-year"] as const).flatMap((key) =>
        sides.has(key) ? [{ ...nothing, key, name: sides.get(key)!, scenario: key }] : [],
      );
      return { kind: axis.kind, noun: "scenario", dimension: null, totalName: null, hasTotal, entries };
    }
  }
}

/** The window of all periods along the sides; the frame's own where no side is by period. */
export function wholeWindowOf(axes: readonly CrossAxisEntries[], { company, asked }: PanelQuestion): Window {
  const windows = axes.flatMap(({ entries }) => entries.flatMap(({ window }) => window ?? []));
  const frames = spanWindow(company, asked.frame.span, asked.frame.asOf);
  if (windows.length === 0) return frames;
  const [from, to] = [windows[0]!.from, windows.at(-1)!.to];
  if (from === frames.from && to === frames.to) return frames;
  return { span: { kind: "trailing", periods: to - from + 1 }, asOf: to, from, to };
}

/** The periods of the frame's span, or the last of them to its as-of month; one that is not over is as far as that. */
function periodsIn(grain: CrossGrain, last: number | undefined, { company, asked }: PanelQuestion): Period[] {
  const { calendar } = company;
  const { span, asOf } = asked.frame;
  const own = frameMonths(calendar, asked.frame);
  if (span.kind === "month-to-date" && last === undefined) {
    const [period] = periodsOf("month", { calendar, asOf, months: own });
    return period ? [{ ...period, window: spanWindow(company, span, asOf) }] : [];
  }
  const yearEnd = fiscalYearStart(calendar, fiscalYearOf(calendar, asOf)) + 11;
  const size = { month: 1, quarter: 3, year: 12 }[grain];
  const [first, end] = last === undefined ? [own[0] ?? asOf, own.at(-1) ?? asOf] : [-Infinity, asOf];
  // Whole periods to the year's end, more than enough of them; those after the as-of month and before the first go.
  const reach =
    last === undefined ? Math.ceil((yearEnd - first + 1) / size) : last + Math.ceil((yearEnd - asOf) / size);
  return periodsOf(grain, { calendar, asOf, months: own, last: reach })
    .filter(({ from, to }) => to >= first && from <= end)
    .map((period) => cutTo(period, Math.max(first, period.from), Math.min(end, period.to)))
    .slice(last === undefined ? 0 : -last);
}

function cutTo(period: Period, from: Month, to: Month): Period {
  return from === period.from && to === period.to ? period : partOfPeriod(period, from, to);
}

function isWithinAYear({ company: { calendar }, asked }: PanelQuestion, last: number | undefined): boolean {
  const months = frameMonths(calendar, asked.frame);
  return last === undefined && new Set(months.map((month) => fiscalYearOf(calendar, month))).size <= 1;
}

/** Months as an address writes them. */
export function monthsText(first: Month, last: Month): string {
  return first === last ? formatMonth(first) : `${formatMonth(first)}..${formatMonth(last)}`;
}

/** A window's months as an address writes them. */
export function windowText(window: Window): string | null {
  const months = windowMonths(window);
  return months.length === 0 ? null : monthsText(months[0]!, months.at(-1)!);
}
