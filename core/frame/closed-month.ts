import type { Month } from "../calendar/month.ts";
import { isWhole, lastClosedMonth, lastDayOf, monthsOf } from "../cube/coverage.ts";
import type { CompiledFormula } from "../formula/node.ts";
import type { Company } from "./company.ts";
import { QuestionRefused } from "./question-refused.ts";

/**
 * The last closed month: of some datasets, the last one that each of them with actuals has whole; of the company where
 * none is named, or none of them has any. Throws when nothing was loaded yet.
 */
export function closedMonth(company: Company, datasets: readonly string[] = []): Month {
  const own = datasets.flatMap((key) => monthsOf(company.coverage, key, "actual").filter(isWhole).at(-1)?.month ?? []);
  const month = own.length > 0 ? Math.min(...own) : lastClosedMonth(company.coverage);
  if (month === undefined)
    throw new QuestionRefused(
      "unknown-period",
      "No actuals are loaded yet, so there is no closed month. Load the first month's file.",
    );
  return month;
}

/** Through which day datasets have a month only in part; `null` where none has it so. */
export function partialThrough({ coverage }: Company, month: Month, datasets: readonly string[]): number | null {
  for (const key of datasets) {
    const entry = monthsOf(coverage, key, "actual").find((e) => e.month === month);
    if (entry && !isWhole(entry)) return lastDayOf(entry);
  }
  return null;
}

/** The datasets that keep the actuals of a formula's accounts. */
export function datasetsOfFormula({ inputs }: Pick<CompiledFormula, "inputs">, company: Company): string[] {
  const homes = company.coverage.homes.get("actual");
  const found = inputs.flatMap((input): string[] => {
    switch (input.kind) {
      case "account":
        return (company.accounts.leaves.get(input.account) ?? []).flatMap((leaf) => homes?.get(leaf)?.dataset ?? []);
      case "monthly":
      case "outlook":
        return datasetsOfFormula(input.formula, company);
      case "clock":
      case "member":
        return [];
    }
  });
  return [...new Set(found)];
}
