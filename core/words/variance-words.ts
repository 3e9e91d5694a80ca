import { isPresent } from "../figures/figure.ts";
import {
  deltaStyle,
  isWrittenZero,
  MONEY_UNITS,
  writePercent,
  writeWithUnit,
  type MoneyUnit,
} from "../formats/number-words.ts";
import type { Figure, Judgement, KpiUnit } from "../figures/schema.ts";

/** What the words of a variance are made from. */
export interface VarianceFacts {
  readonly unit: KpiUnit;
  readonly decimals: number;
  readonly money: MoneyUnit;
  readonly basisName: string;
  readonly delta: Figure;
  readonly deltaPercent: Figure;
  readonly judgement: Judgement | null;
  /** The months it is of, where they are fewer than the span has; `null` where they are all. */
  readonly comparedOver?: string | null;
}

/** "€ 212k (3.4%) below Budget, unfavourable": made from the signed numbers, so that it cannot contradict them. */
export function varianceWords(facts: VarianceFacts): string {
  const { delta, judgement, basisName, comparedOver } = facts;
  if (!isPresent(delta)) return `not compared with ${basisName}: ${delta.detail}`;
  const over = comparedOver ? ` for ${comparedOver}` : "";
  // Equal is said of what is equal to the last digit only; what is too small to be written is said to be so.
  const size = () => varianceAmount(facts) ?? lessThan(facts);
  const place =
    delta.value === 0
      ? `equal to ${basisName}${over}`
      : `${size()} ${delta.value > 0 ? "above" : "below"} ${basisName}${over}`;
  return judgement === null || judgement === "neutral" ? place : `${place}, ${judgement}`;
}

/** A variance below what the reader's unit can write, in a smaller one: "€ 612 (3.4%)", or "less than € 1". */
function lessThan(facts: VarianceFacts): string {
  const smaller = MONEY_UNITS.slice(0, MONEY_UNITS.indexOf(facts.money)).reverse();
  for (const money of smaller) {
    const amount = varianceAmount({ ...facts, money });
    if (amount !== null) return amount;
  }
  const { unit, decimals, deltaPercent } = facts;
  const style = deltaStyle(unit, decimals, "units");
  return `less than ${writeWithUnit(10 ** -style.decimals / style.factor, style)}${percentWords(unit, deltaPercent)}`;
}

/** The size of a variance without direction: "€ 212k (3.4%)"; `null` when it is written as zero. */
export function varianceAmount({ unit, decimals, money, delta, deltaPercent }: VarianceFacts): string | null {
  if (!isPresent(delta)) return null;
  const style = deltaStyle(unit, decimals, money);
  if (isWrittenZero(delta.value, style)) return null;
  return `${writeWithUnit(Math.abs(delta.value), style)}${percentWords(unit, deltaPercent)}`;
}

function percentWords(unit: KpiUnit, deltaPercent: Figure): string {
  return unit.kind !== "percent" && isPresent(deltaPercent) ? ` (${writePercent(Math.abs(deltaPercent.value))})` : "";
}
