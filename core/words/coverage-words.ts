import type { AccountTree } from "../accounts/account-tree.ts";
import { monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Comparison } from "../compare/compare-kpi.ts";
import type { SideCoverage } from "../compare/measure.ts";

/** What a comparison leaves out, a sentence per reason; empty when nothing is left out. */
export function coverageNotes(
  comparison: Omit<Comparison, "isFallback">,
  { calendar, accounts, fallbackFrom }: { calendar: FiscalCalendar; accounts: AccountTree; fallbackFrom: string | null },
): string[] {
  const { actual, basis, asked, compared } = comparison;
  const notes: string[] = [];
  if (fallbackFrom !== null) notes.push(`${fallbackFrom} does not have this KPI: compared with ${basis.side.name}.`);
  const open = asked.filter((month) => !actual.coverage.months.includes(month));
  if (actual.coverage.months.length > 0 && open.length > 0) {
    notes.push(`Actual has ${monthsName(calendar, actual.coverage.months)}; ${monthsName(calendar, open)} is left out.`);
  }
  const uncompared = actual.coverage.months.filter((month) => !compared.includes(month));
  if (compared.length > 0 && uncompared.length > 0) {
    notes.push(`Compared on ${monthsName(calendar, compared)}: ${basis.side.name} has nothing to set against ${monthsName(calendar, uncompared)}.`);
  }
  return [...notes, ...leftOutNotes(actual.coverage, accounts)];
}

/** Accounts a side does not keep by a dimension of the scope. */
export function leftOutNotes(coverage: SideCoverage, accounts: AccountTree): string[] {
  if (coverage.absence) return [];
  const names = [...new Set(coverage.answers.flatMap((a) => a.leavesLeftOut))].map((key) => accounts.accounts.get(key)?.name ?? key);
  if (names.length === 0) return [];
  const shown = names.slice(0, 4).join(", ");
  return [`Not kept in this scope, so left out: ${shown}${names.length > 4 ? ` and ${names.length - 4} more` : ""}.`];
}
