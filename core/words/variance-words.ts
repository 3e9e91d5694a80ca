import type { Judgement } from "../compare/variance.ts";
import { isPresent, type Figure } from "../figures/figure.ts";
import type { KpiUnit } from "../kpis/kpi.ts";
import { deltaStyle, isWrittenZero, writePercent, writeWithUnit, type MoneyUnit } from "./number-words.ts";

/** What the words of a variance are made from. */
export interface VarianceFacts {
  readonly unit: KpiUnit;
  readonly decimals: number;
  readonly money: MoneyUnit;
  readonly basisName: string;
  readonly delta: Figure;
  readonly deltaPercent: Figure;
  readonly judgement: Judgement | null;
}

/** "€ 212k (3.4%) below Budget, unfavourable": made from the signed numbers, so that it cannot contradict them. */
export function varianceWords(facts: VarianceFacts): string {
  const { delta, judgement } = facts;
  if (!isPresent(delta)) return `not compared with ${facts.basisName}: ${delta.detail}`;
  const amount = varianceAmount(facts);
  const place =
    amount === null
      ? `equal to ${facts.basisName}`
      : `${amount} ${delta.value > 0 ? "above" : "below"} ${facts.basisName}`;
  return judgement === null || judgement === "neutral" ? place : `${place}, ${judgement}`;
}

/** The size of a variance without direction: "€ 212k (3.4%)"; `null` when it is written as zero. */
export function varianceAmount({ unit, decimals, money, delta, deltaPercent }: VarianceFacts): string | null {
  if (!isPresent(delta)) return null;
  const style = deltaStyle(unit, decimals, money);
  if (isWrittenZero(delta.value, style)) return null;
  const percent =
    unit.kind !== "percent" && isPresent(deltaPercent) ? ` (${writePercent(Math.abs(deltaPercent.value))})` : "";
  return `${writeWithUnit(Math.abs(delta.value), style)}${percent}`;
}
