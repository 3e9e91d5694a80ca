import type { MonthOutside } from "../../ahead/month-outside.ts";
import { valueStyle, writeNumber, writeWithUnit, type MoneyUnit } from "../../formats/number-words.ts";
import { writeScore } from "../../formats/write-score.ts";
import type { KpiHead, KpiRow } from "./schema.ts";

/** "September FY27 is € 10,428k, −3.1 σ off: between 10,623 and € 12,840k was expected, 95%." */
export function outsideWords(
  { name, value, lower, upper, score, level, reason }: MonthOutside,
  { unit, decimals }: KpiHead,
  money: MoneyUnit,
): string {
  const style = valueStyle(unit, decimals, money);
  const known = reason === null ? "" : ` Explained: “${reason}”.`;
  return `${name} is ${writeWithUnit(value, style)}, ${writeScore(score)} off: between ${writeNumber(lower, style)} and ${writeWithUnit(upper, style)} was expected, ${level}%.${known}`;
}

/** The same as a cell of a table; empty where nothing is out of the ordinary. */
export function outsideCell({ outside, kpi }: KpiRow, money: MoneyUnit): string | null {
  return outside && outsideWords(outside, kpi, money);
}
