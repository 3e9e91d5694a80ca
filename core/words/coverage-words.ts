import type { AccountTree } from "../accounts/account-tree.ts";
import { monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import type { SidesCompared } from "../compare/compare-kpi.ts";
import type { ViewCoverage } from "../compare/cover-view.ts";
import type { SideCoverage } from "../compare/measurement.ts";

interface Naming {
  readonly calendar: FiscalCalendar;
  readonly accounts: AccountTree;
}

/** What a comparison leaves out, a sentence per reason; empty when nothing is left out. */
export function coverageNotes(
  comparison: SidesCompared,
  { fallbackFrom, ...naming }: Naming & { fallbackFrom: string | null },
): string[] {
  const { actual, basis, compared } = comparison;
  const { calendar, accounts } = naming;
  const notes: string[] = [];
  if (fallbackFrom !== null) notes.push(`${fallbackFrom} does not have this KPI: compared with ${basis.side.name}.`);
  notes.push(...lackNotes(actual.coverage, calendar));
  const uncompared = actual.coverage.months.filter((month) => !compared.includes(month));
  if (compared.length > 0 && uncompared.length > 0)
    notes.push(
      `Compared on ${monthsName(calendar, compared)}: ${basis.side.name} has nothing to set against ${monthsName(calendar, uncompared)}.`,
    );
  if (basis.coverage.holdsByQuarter && !basis.coverage.absence)
    notes.push(`${basis.side.name} is kept by quarter: its rate is that of ${monthsName(calendar, basis.months)}.`);
  return [...new Set([...notes, ...zeroNotes(comparison, accounts), ...leftOutNotes(actual.coverage, accounts)])];
}

/**
 * Which months of its spans a formula leaves out on one side, by the name of the scenario that lacks them:
 * where parts of a formula stand on months that not all of them have, the one that lacks is named.
 */
export function lackNotes({ views }: SideCoverage, calendar: FiscalCalendar): string[] {
  return views.flatMap((view) => {
    if (view.absence) return [];
    const lacking = view.asked.filter((month) => !view.own.includes(month));
    const named = (months: readonly Month[]) => shiftedName(view, months, calendar);
    if (lacking.length > 0) return [`${view.side.name} has ${named(view.own)}; ${named(lacking)} is left out.`];
    return [];
  });
}

function shiftedName({ side }: ViewCoverage, months: readonly Month[], calendar: FiscalCalendar): string {
  return monthsName(
    calendar,
    months.map((month) => month - side.shift),
  );
}

/** Accounts that only the actual has: in a plan without them they count as 0. */
function zeroNotes({ actual, basis }: Pick<SidesCompared, "actual" | "basis">, accounts: AccountTree): string[] {
  if (actual.coverage.absence || basis.coverage.absence) return [];
  const planned = new Set(basis.coverage.answers.flatMap((a) => a.leaves));
  const unplanned = [...new Set(actual.coverage.answers.flatMap((a) => a.leaves))].filter((leaf) => !planned.has(leaf));
  if (unplanned.length === 0) return [];
  return [`${basis.side.name} has nothing for ${listed(unplanned, accounts)}: it counts as 0 there.`];
}

function listed(keys: readonly string[], accounts: AccountTree): string {
  const names = keys.map((key) => accounts.accounts.get(key)?.name ?? key);
  const shown = names.slice(0, 4).join(", ");
  return names.length > 4 ? `${shown} and ${names.length - 4} more` : shown;
}

/** Accounts a side does not keep by a dimension of the scope. */
export function leftOutNotes(coverage: SideCoverage, accounts: AccountTree): string[] {
  if (coverage.absence) return [];
  const keys = [...new Set(coverage.answers.flatMap((a) => a.leavesLeftOut))];
  return keys.length === 0 ? [] : [`Not kept in this scope, so left out: ${listed(keys, accounts)}.`];
}
