import { newKey } from "../reading/names.ts";
import { EXPENSE_NAME, INCOME_NAME, SOLD_TO, SPENT_BY } from "./column-names.ts";
import type { NewAccount } from "./mapping.ts";
import { natureOfName, type MeasureNature } from "./measure-nature.ts";

/** An account for a column of a file, by what it is called and by what the file says besides. */
export function newAccount(
  name: string,
  {
    isQuantity,
    isBalance,
    decimals,
  }: { readonly isQuantity: boolean; readonly isBalance: boolean; readonly decimals: number },
  { said, beside }: { readonly said: string; readonly beside: string },
  taken: ReadonlySet<string>,
): NewAccount {
  const base = { key: newKey(name, taken, "_"), name, behaviour: isBalance ? ("balance" as const) : ("flow" as const) };
  if (isQuantity) return { ...base, kind: "statistic", unit: { kind: "count", of: name.toLowerCase() }, decimals };
  const money = { ...base, unit: { kind: "money" } as const, decimals: 2 };
  const nature = natureOfName(name);
  if (nature === "asset" || nature === "liability" || nature === "equity")
    return { ...money, kind: nature, behaviour: "balance" };
  if (nature === "income" || nature === "expense") return { ...money, kind: nature };
  const isNamed = EXPENSE_NAME.test(said) || INCOME_NAME.test(said);
  const isSpent = isNamed ? EXPENSE_NAME.test(said) && !INCOME_NAME.test(name) : SPENT_BY.test(beside);
  const isGuess = !isNamed && !isBalance && SPENT_BY.test(beside) === SOLD_TO.test(beside);
  return { ...money, kind: isSpent ? "expense" : "income", ...(isGuess ? { isGuess } : {}) };
}

/** Whether something is kept, rather than earned, spent or counted over time. */
export function isBalanceNature(nature: MeasureNature | undefined): boolean {
  return nature === "count-balance" || nature === "asset" || nature === "liability" || nature === "equity";
}
