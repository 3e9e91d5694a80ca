import type { Month } from "../calendar/month.ts";
import { spread, type VersionFact } from "./version-facts.ts";

/** How an amount is changed by hand: by a percentage, by an amount more or less, or to an amount. */
export const ADJUSTMENT_KINDS = ["percent", "add", "set"] as const;
export type AdjustmentKind = (typeof ADJUSTMENT_KINDS)[number];

/** A change by hand of some accounts' amounts, each month by itself. */
export interface AdjustmentRule {
  readonly kind: AdjustmentKind;
  /** Percent, or whole minor units a month. */
  readonly value: number;
  readonly from: Month;
  readonly to: Month;
  /** Whether an amount belongs to what is changed. */
  readonly isOf: (fact: VersionFact) => boolean;
}

/**
 * A version's amounts after changes by hand, one after the other: each month of what is changed is brought to its new
 * sum, in proportion to the amounts that it is made of. A month in which there is nothing to change stays as it is.
 */
export function adjustFacts(facts: readonly VersionFact[], rules: readonly AdjustmentRule[]): VersionFact[] {
  let now = [...facts];
  for (const rule of rules) {
    const byMonth = new Map<Month, number[]>();
    now.forEach((fact, i) => {
      if (fact.month < rule.from || fact.month > rule.to || !rule.isOf(fact)) return;
      byMonth.set(fact.month, [...(byMonth.get(fact.month) ?? []), i]);
    });
    const next = [...now];
    for (const places of byMonth.values()) {
      const amounts = places.map((i) => now[i]!.amount);
      const adjusted = spread(targetOf(rule, amounts), amounts);
      places.forEach((i, k) => (next[i] = { ...now[i]!, amount: adjusted[k]! }));
    }
    now = next;
  }
  return now;
}

function targetOf({ kind, value }: AdjustmentRule, amounts: readonly number[]): number {
  const sum = amounts.reduce((all, amount) => all + amount, 0);
  switch (kind) {
    case "percent":
      return Math.round(sum * (1 + value / 100));
    case "add":
      return sum + Math.round(value);
    case "set":
      return Math.round(value);
  }
}
