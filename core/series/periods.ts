import { daysOf, formatDay, isoWeek, weekday, type Day } from "../calendar/days.ts";
import {
  fiscalQuarterStart,
  fiscalYearName,
  fiscalYearOf,
  fiscalYearStart,
  periodName,
  type FiscalCalendar,
} from "../calendar/fiscal-calendar.ts";
import { formatMonth, monthName, monthsBetween, type Month } from "../calendar/month.ts";
import { dayWindow, monthWindow, rangeWindow, type Window } from "../compare/window.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { dayWithin, shortDay, writeDay } from "../formats/day-words.ts";
import type { Grain } from "./grain.ts";

/** One step of a series: a stretch of time with its name. */
export interface Period {
  /** "2026-10-14", "2026-W42", "2026-10", "2026-Q3", "FY27" */
  readonly key: string;
  /** "14 October FY27", "week 42 of 2026", "October FY27", "third quarter FY27", "FY27" */
  readonly name: string;
  /** As an axis has it: "14 Oct", "W42", "Oct", "Q3", "FY27". */
  readonly short: string;
  readonly window: Window;
  /** The months that it touches, first and last. */
  readonly from: Month;
  readonly to: Month;
  /** Set where it is a part of one of several months: nothing that takes it for a whole one may be made of it. */
  readonly isPart?: true;
}

/** How many periods a series of a grain has where nothing is said of its length. */
const USUAL: Readonly<Record<Exclude<Grain, "month">, number>> = { day: 92, week: 53, quarter: 12, year: 5 };
/** A series has at most this many periods; years have names of two digits. */
export const MOST_PERIODS = 400;
const MOST: Readonly<Partial<Record<Grain, number>>> = { year: 40, quarter: 160 };

/**
 * The periods of a grain that a series shows: months of the frame's fiscal year, or of `months`; of other grains as
 * many as are usual, or `last` of them, to the end of the frame's year for whole ones, to its as-of month for days.
 */
export function periodsOf(
  grain: Grain,
  {
    calendar,
    asOf,
    months,
    last,
  }: { calendar: FiscalCalendar; asOf: Month; months: readonly Month[]; last?: number | undefined },
): Period[] {
  const count = Math.min(MOST[grain] ?? MOST_PERIODS, last ?? (grain === "month" ? months.length : USUAL[grain]));
  const yearEnd = fiscalYearStart(calendar, fiscalYearOf(calendar, asOf)) + 11;
  switch (grain) {
    case "month": {
      const shown = last === undefined ? months : monthsBetween(yearEnd - count + 1, yearEnd);
      return shown.map((month) => monthPeriod(calendar, month));
    }
    case "quarter":
      return groups(monthsBetween(yearEnd - 3 * count + 1, yearEnd), 3).map((own) => quarterPeriod(calendar, own));
    case "year":
      return groups(monthsBetween(yearEnd - 12 * count + 1, yearEnd), 12).map((own) => yearPeriod(calendar, own));
    case "day": {
      const reach = monthsBetween(asOf - Math.ceil(count / 28), asOf);
      return reach.flatMap((month) => dayPeriods(calendar, month)).slice(-count);
    }
    case "week": {
      const reach = monthsBetween(asOf - Math.ceil((count * 7 + 13) / 28), asOf);
      return weeksOf(daysOf(reach), calendar).slice(-count);
    }
  }
}

/** All periods of a grain that lie whole between two months, both included: what a history is made of. */
export function wholePeriods(grain: Grain, calendar: FiscalCalendar, from: Month, to: Month): Period[] {
  switch (grain) {
    case "day":
      return monthsBetween(from, to).flatMap((month) => dayPeriods(calendar, month));
    case "week":
      return weeksOf(daysOf(monthsBetween(from, to)), calendar);
    case "month":
      return monthsBetween(from, to).map((month) => monthPeriod(calendar, month));
    case "quarter":
    case "year": {
      const size = grain === "quarter" ? 3 : 12;
      const startOf = (month: Month) =>
        grain === "quarter"
          ? fiscalQuarterStart(calendar, month)
          : fiscalYearStart(calendar, fiscalYearOf(calendar, month));
      const first = startOf(from) === from ? from : startOf(from) + size;
      const periodOf = grain === "quarter" ? quarterPeriod : yearPeriod;
      return groups(monthsBetween(first, to), size)
        .filter((own) => own.length === size)
        .map((own) => periodOf(calendar, own));
    }
  }
}

/** The periods of a grain that follow one of them. */
export function periodsAfter(grain: Grain, calendar: FiscalCalendar, last: Period, count: number): Period[] {
  const { days } = last.window;
  if (!days) {
    const months = last.to - last.from + 1;
    return wholePeriods(grain, calendar, last.to + 1, last.to + months * count);
  }
  const size = grain === "week" ? 7 : 1;
  const reach = monthsBetween(last.to, last.to + Math.ceil((count * size) / 28) + 1);
  if (grain !== "week") return reach.flatMap((month) => dayPeriods(calendar, month)).slice(days.to, days.to + count);
  return weeksOf(daysOf(reach).slice(days.to, days.to + count * size), calendar);
}

function monthPeriod(calendar: FiscalCalendar, month: Month): Period {
  return getOrCreate(knownOf(calendar).months, month, () => ({
    key: formatMonth(month),
    name: periodName(calendar, month),
    short: monthName(month).slice(0, 3),
    window: monthWindow(month),
    from: month,
    to: month,
  }));
}

/** Months and days of a calendar stand in thousands of series: each is named once. */
const known = new WeakMap<FiscalCalendar, Known>();

interface Known {
  readonly months: Map<Month, Period>;
  /** The days of each month. */
  readonly days: Map<Month, readonly Period[]>;
}

function knownOf(calendar: FiscalCalendar): Known {
  return getOrCreate(known, calendar, () => ({ months: new Map(), days: new Map() }));
}

function quarterPeriod(calendar: FiscalCalendar, months: readonly Month[]): Period {
  const start = fiscalQuarterStart(calendar, months[0]!);
  const year = fiscalYearOf(calendar, start);
  const quarter = (start - fiscalYearStart(calendar, year)) / 3 + 1;
  const name = fiscalYearName(year);
  return {
    key: `${name}-Q${quarter}`,
    name: `Q${quarter} ${name}`,
    short: quarter === 1 ? `Q1 ${name}` : `Q${quarter}`,
    window: rangeWindow(months),
    from: months[0]!,
    to: months.at(-1)!,
  };
}

function yearPeriod(calendar: FiscalCalendar, months: readonly Month[]): Period {
  const name = fiscalYearName(fiscalYearOf(calendar, months[0]!));
  return { key: name, name, short: name, window: rangeWindow(months), from: months[0]!, to: months.at(-1)! };
}

/** A period of several months cut to some of them, and named so: "Q3 FY27, October only". */
export function partOfPeriod(period: Period, from: Month, to: Month): Period {
  const months = from === to ? monthName(from) : `${monthName(from)}–${monthName(to)}`;
  const part = `${monthName(from).slice(0, 3)}${from === to ? "" : `–${monthName(to).slice(0, 3)}`}`;
  return {
    ...period,
    name: `${period.name}, ${months} only`,
    short: `${period.short}: ${part}`,
    window: rangeWindow(monthsBetween(from, to)),
    from,
    to,
    isPart: true,
  };
}

function dayPeriods(calendar: FiscalCalendar, month: Month): readonly Period[] {
  return getOrCreate(knownOf(calendar).days, month, () => daysOf([month]).map((day) => dayPeriod(calendar, day)));
}

function dayPeriod(calendar: FiscalCalendar, day: Day): Period {
  return {
    key: formatDay(day),
    name: dayWithin(day, fiscalYearName(fiscalYearOf(calendar, day.month))),
    short: shortDay(day),
    window: dayWindow(day, day),
    from: day.month,
    to: day.month,
  };
}

/**
 * The weeks of a run of days, from the calendar's first day of the week on, without those that are not whole at the
 * run's ends. Weeks from Monday on have their ISO 8601 number; others are told by the day they begin with.
 */
function weeksOf(days: readonly Day[], { weekStart = 1 }: FiscalCalendar): Period[] {
  const start = days.findIndex((day) => weekday(day) === weekStart);
  const whole = start < 0 ? [] : days.slice(start);
  return groups(whole, 7)
    .filter((own) => own.length === 7)
    .map((own): Period => {
      const [first, last] = [own[0]!, own[6]!];
      const { year, week } = isoWeek(first);
      return {
        ...(weekStart === 1
          ? {
              key: `${year}-W${String(week).padStart(2, "0")}`,
              name: `week ${week} of ${year}, ${shortDay(first)}–${shortDay(last)}`,
              short: `W${week}`,
            }
          : {
              key: `${formatDay(first)}-week`,
              name: `week from ${writeDay(first)} to ${shortDay(last)}`,
              short: shortDay(first),
            }),
        window: dayWindow(first, last),
        from: first.month,
        to: last.month,
      };
    });
}

function groups<T>(items: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(items.length / size) }, (_, i) => items.slice(i * size, (i + 1) * size));
}
