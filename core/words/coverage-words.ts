import type { AccountTree } from "../accounts/account-tree.ts";
import { monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Comparison } from "../compare/compare-kpi.ts";
import type { SideCoverage } from "../compare/measure.ts";

/** What a comparison leaves out, a sentence per reason; empty when nothing is left out. */
export function coverageNotes(
  comparison: Omit<Comparison, "isFallback">,
  {
    calendar,
    accounts,
    fallbackFrom,
  }: { calendar: FiscalCalendar; accounts: AccountTree; fallbackFrom: string | null },
): string[] {
  const { actual, basis, asked, compared } = comparison;
  const notes: string[] = [];
  if (fallbackFrom !== null) notes.push(`${fallbackFrom} does not have this KPI: compared with ${basis.side.name}.`);
  const open = asked.filter((month) => !actual.coverage.months.includes(month));
  if (actual.coverage.months.length > 0 && open.length > 0) {
    notes.push(
      `Actual has ${monthsName(calendar, actual.coverage.months)}; ${monthsName(calendar, open)} is left out.`,
    );
  }
  const uncompared = actual.coverage.months.filter((month) => !compared.includes(month));
  if (compared.length > 0 && uncompared.length > 0) {
    notes.push(
      `Compared on ${monthsName(calendar, compared)}: ${basis.side.name} has nothing to set against ${monthsName(calendar, uncompared)}.`,
    );
  }
  if (basis.coverage.holdsByQuarter && !basis.coverage.absence) {
    notes.push(`${basis.side.name} is kept by quarter: its rate is that of ${monthsName(calendar, basis.months)}.`);
  }
  return [...notes, ...zeroNotes(comparison, accounts), ...leftOutNotes(actual.coverage, accounts)];
}

/** Accounts that only the actual has: in a plan without them they count as 0. */
function zeroNotes({ actual, basis }: Pick<Comparison, "actual" | "basis">, accounts: AccountTree): string[] {
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
