import type { Account } from "../accounts/account.ts";
import type { KpiDefinition } from "./schema.ts";

/** Which way is good of an account: more income, fewer costs. */
export function directionOf({ kind }: Pick<Account, "kind">): KpiDefinition["direction"] {
  return kind === "expense" ? "lower" : kind === "income" ? "higher" : "neutral";
}

/** Money comes before counts, and what comes in before what goes out. */
export function rankOf({ unit, kind }: Pick<Account, "unit" | "kind">): number {
  return unit.kind === "money" ? (kind === "income" ? 0 : 1) : 2;
}

/** A formula names each of its accounts: a longer one nobody reads. */
const MOST_IN_FORMULA = 60;

/** A KPI of what several accounts come to. */
export interface AccountsResult {
  readonly name: string;
  readonly formula: string;
  readonly direction: KpiDefinition["direction"];
}

/** What income and expenses come to, where there are several of both; each in the order of its accounts. */
export function resultsOf(accounts: readonly Account[]): AccountsResult[] {
  const { income, expense } = keysByKind(accounts);
  if (income.length + expense.length < 3 || income.length === 0 || expense.length === 0) return [];
  if (income.length + expense.length > MOST_IN_FORMULA) return [];
  return sumsOf(accounts).filter(({ name }) => name === "Result" || (name === "Income" ? income : expense).length > 1);
}

/** The same where there is only one of a kind; what there is none of has no sum. */
export function sumsOf(accounts: readonly Account[]): AccountsResult[] {
  const { income, expense } = keysByKind(accounts);
  const [earned, spent] = [income.join(" + "), expense.join(" + ")];
  return [
    {
      name: "Result",
      formula: spent === "" ? earned : earned === "" ? `-(${spent})` : `${earned} - (${spent})`,
      direction: "higher",
    },
    { name: "Income", formula: earned, direction: "higher" },
    { name: "Costs", formula: spent, direction: "lower" },
  ].filter((sum): sum is AccountsResult => sum.formula !== "" && sum.formula !== "-()");
}

function keysByKind(accounts: readonly Account[]): Readonly<Record<"income" | "expense", readonly string[]>> {
  const of = (kind: Account["kind"]) =>
    accounts.filter((account) => account.kind === kind && account.unit.kind === "money").map(({ key }) => key);
  return { income: of("income"), expense: of("expense") };
}
