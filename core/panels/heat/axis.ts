import { weekday, type Day } from "../../calendar/days.ts";
import {
  fiscalYearName,
  fiscalYearOf,
  fiscalYearStart,
  periodName,
  type FiscalCalendar,
} from "../../calendar/fiscal-calendar.ts";
import { formatMonth, monthName, monthOfYear, monthsBetween, type Month } from "../../calendar/month.ts";
import type { Dimension } from "../../dimensions/dimension.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { beyondNotes, firstOf, repetition } from "../parts/repetition.ts";
import { MOST_ALONG, type HeatAxis } from "./schema.ts";
import type { ShownMember } from "../parts/schema.ts";

/** One place along a side of a grid. */
export interface AxisEntry {
  readonly key: string;
  readonly name: string;
  readonly member: ShownMember | null;
}

/** A place with what it takes of time. */
export interface TimedEntry extends AxisEntry {
  readonly takesMonth: (month: Month) => boolean;
  /** Where it is a member: what it is a member of. */
  readonly dimension?: Dimension;
  /** Whether it takes only some days of a month; then it is read from daily facts. */
  readonly takesDay: ((day: Day) => boolean) | null;
}

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const EVERY = () => true;

/** The places along a side, and what a place is called. */
export function entriesOf(
  axis: HeatAxis,
  months: readonly Month[],
  isMonthOfYear: boolean,
  question: PanelQuestion,
): { entries: readonly TimedEntry[]; noun: string; dimension: string | null; notes: readonly string[] } {
  const { calendar } = question.company;
  switch (axis.kind) {
    case "member": {
      const repeated = firstOf(repetition(question, axis, null, [months]), MOST_ALONG);
      const { members, level, dimension } = repeated;
      const entries = members.map((member) => ({
        key: member.key,
        name: member.name,
        member,
        dimension,
        takesMonth: EVERY,
        takesDay: null,
      }));
      return { entries, noun: level, dimension: dimension.key, notes: beyondNotes(repeated) };
    }
    case "weekday": {
      const first = (calendar.weekStart ?? 1) - 1;
      const entries = WEEKDAYS.map((_, i) => (first + i) % 7).map((at) => ({
        key: `weekday-${at + 1}`,
        name: WEEKDAYS[at]!,
        member: null,
        takesMonth: EVERY,
        takesDay: (day: Day) => weekday(day) === at + 1,
      }));
      return { entries, noun: "weekday", dimension: null, notes: [] };
    }
    case "year": {
      const years = [...new Set(months.map((month) => fiscalYearOf(calendar, month)))];
      const entries = years.map((year) => ({
        key: fiscalYearName(year),
        name: fiscalYearName(year),
        member: null,
        takesMonth: (month: Month) => fiscalYearOf(calendar, month) === year,
        takesDay: null,
      }));
      return { entries, noun: "year", dimension: null, notes: [] };
    }
    case "month":
      return { entries: monthEntries(calendar, months, isMonthOfYear), noun: "month", dimension: null, notes: [] };
  }
}

/** Months of the year where years stand along the other side, else each month by itself. */
function monthEntries(calendar: FiscalCalendar, months: readonly Month[], isMonthOfYear: boolean): TimedEntry[] {
  if (isMonthOfYear)
    return monthsBetween(0, 11).map((_, i) => {
      const wanted = ((calendar.startMonth - 1 + i) % 12) + 1;
      const name = monthName(months[0]! - monthOfYear(months[0]!) + wanted);
      const takesMonth = (month: Month) => monthOfYear(month) === wanted;
      return { key: `month-${wanted}`, name, member: null, takesMonth, takesDay: null };
    });
  const isOneYear = months.length <= 12;
  return months.map((month) => ({
    key: formatMonth(month),
    name: isOneYear ? monthName(month) : periodName(calendar, month),
    member: null,
    takesMonth: (own: Month) => own === month,
    takesDay: null,
  }));
}

/** The months a grid is of: whole fiscal years, as far as the as-of month. */
export function heatMonths(calendar: FiscalCalendar, asOf: Month, years: number): Month[] {
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, asOf) - (years - 1));
  return monthsBetween(start, asOf);
}
