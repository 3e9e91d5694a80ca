import { daysInMonth, type Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { isWhole, type MonthCoverage, type DaysTaken, type DaysWithoutLines } from "./coverage.ts";

/** A list of what happened has no line on many days; figures that come every day have few gaps. */
const DENSE = 0.9;
const MOSTLY = 0.5;
/** So far from the half, months that have each day or that have not leave no doubt. */
const CLEARLY = 0.3;
/** A month or two with lines on fewer of its days than this is a list without a doubt: working weeks have seven tenths. */
const SPARSE = 0.75;
/** Of a single month: it is there from its beginning, and to its end, where its first and last lines lie so. */
const EARLY = 7;
const LATE = 25;

/** What is known of a dataset besides its days. */
export interface ListSettings {
  readonly keepsBalances: (dataset: string, scenario: string) => boolean;
  /** What somebody said of its days without a line; nothing where nobody did. */
  readonly said: (dataset: string) => DaysWithoutLines | null;
}

/**
 * What lists by day cover. Of order lines, tickets or bookings, days without a line are days on which nothing happened,
 * and so are months between the first and the last. Figures that come every day stay as they are: a gap in them is
 * something missing. So do datasets of balances, since a day without one is not a balance of nothing.
 */
export function completeLists(
  months: readonly MonthCoverage[],
  { keepsBalances, said }: ListSettings,
): { readonly months: readonly MonthCoverage[]; readonly taken: ReadonlyMap<string, DaysTaken> } {
  const places = new Map<string, MonthCoverage[]>();
  for (const entry of months)
    getOrCreate(places, `${entry.dataset} ${entry.scenario}`, (): MonthCoverage[] => []).push(entry);
  const taken = new Map<string, DaysTaken>();
  const completed = [...places.values()].flatMap((own) => {
    const [{ dataset, scenario }] = own as [MonthCoverage];
    const isDaily = own.every(({ dayMask }) => dayMask !== null && dayMask !== 0);
    if (!isDaily || keepsBalances(dataset, scenario)) return own;
    const sorted = own.toSorted((a, b) => a.month - b.month);
    const told = said(dataset);
    const found: DaysTaken = told === null ? takenByDays(sorted) : { as: told, isClear: true };
    if (scenario === ACTUAL) taken.set(dataset, found);
    return found.as === "zero" ? completeDays(sorted) : own;
  });
  return { months: completed, taken };
}

const ACTUAL = "actual";

/** The months of one dataset and scenario by day: of a list, with the days that nothing happened on. */
function completeDays(months: readonly MonthCoverage[]): readonly MonthCoverage[] {
  const [first, last] = [months[0]!, months.at(-1)!];
  const others = (without: MonthCoverage) => months.filter((entry) => entry !== without);
  const begins = Math.max(...others(first).map(firstDay), EARLY);
  const ends = Math.min(...others(last).map(lastDay), LATE);
  return Array.from({ length: last.month - first.month + 1 }, (_, i): MonthCoverage => {
    const month: Month = first.month + i;
    const from = month === first.month && firstDay(first) > begins ? firstDay(first) : 1;
    const to = month === last.month && lastDay(last) < ends ? lastDay(last) : daysInMonth(month);
    return { ...first, month, dayMask: maskOf(from, to) };
  });
}

/** How days without a line are taken by the days that have one; months in order. */
function takenByDays(months: readonly MonthCoverage[]): DaysTaken {
  const inner = months.slice(1, -1);
  if (inner.length > 0) {
    const whole = inner.filter(isWhole).length / inner.length;
    return { as: whole < MOSTLY ? "zero" : "missing", isClear: Math.abs(whole - MOSTLY) >= CLEARLY };
  }
  const [first, last] = [months[0]!, months.at(-1)!];
  const seen = months.reduce((sum, { dayMask }) => sum + bitsOf(dayMask!), 0);
  const before = months.slice(0, -1).reduce((sum, { month }) => sum + daysInMonth(month), 0);
  const dense = seen / (before + lastDay(last) - firstDay(first) + 1);
  return { as: dense < DENSE ? "zero" : "missing", isClear: dense === 1 || dense < SPARSE };
}

function firstDay({ dayMask }: MonthCoverage): number {
  return 32 - Math.clz32(dayMask! & -dayMask!);
}

function lastDay({ dayMask }: MonthCoverage): number {
  return 32 - Math.clz32(dayMask!);
}

function maskOf(from: number, to: number): number {
  return 2 ** to - 2 ** (from - 1);
}

function bitsOf(mask: number): number {
  let [count, left] = [0, mask];
  for (; left !== 0; left &= left - 1) count += 1;
  return count;
}
