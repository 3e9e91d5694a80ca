import { MONEY_UNITS, valueStyle, type MoneyUnit } from "../formats/number-words.ts";
import type { PanelQuestion } from "./panel-question.ts";
import type { PanelTable } from "./parts/panel-table.ts";
import type { KpiUnit } from "../figures/schema.ts";

/** A unit in which the largest figure has fewer than two digits says too little. */
const LEAST_DIGITS = 10;

/** The unit of money that amounts are shown in: the one that is usual, or the largest smaller one in which they have two digits. */
export function fittedUnit(amounts: readonly number[], usual: MoneyUnit): MoneyUnit {
  const largest = Math.max(0, ...amounts.map(Math.abs));
  if (largest === 0) return usual;
  const fits = (unit: MoneyUnit) => {
    const { factor, decimals } = valueStyle({ kind: "money" }, 0, unit);
    return largest * factor * 10 ** decimals >= LEAST_DIGITS;
  };
  const smaller = MONEY_UNITS.slice(0, MONEY_UNITS.indexOf(usual) + 1).reverse();
  return smaller.find(fits) ?? "units";
}

/** What the unit of a panel of one KPI is found by: its amounts, as its table of numbers has them. */
export function withFittedUnit<Answer extends object>(
  compute: (question: PanelQuestion) => Answer,
  table: (answer: Answer) => PanelTable,
  question: PanelQuestion,
): Answer {
  const answer = compute(question);
  const { asked } = question;
  if (asked.isUnitChosen || asked.unit === "units" || !("kpi" in answer)) return answer;
  const { unit } = answer.kpi as { readonly unit: KpiUnit };
  // With decimals of its own a small amount is written in full.
  if (unit.kind !== "money" || unit.decimals !== undefined) return answer;
  const fitted = fittedUnit(amountsOf(table(answer)), asked.unit);
  return fitted === asked.unit
    ? answer
    : compute({ ...question, asked: { ...asked, unit: fitted, answer: { ...asked.answer, unit: fitted } } });
}

/** The amounts of a table, without those of another KPI. */
function amountsOf({ columns, rows }: PanelTable): number[] {
  const own = columns.flatMap(({ holds, of }, i) => (holds === "value" && of === undefined ? [i] : []));
  return rows.flatMap((row) => own.flatMap((i) => (typeof row[i] === "number" ? [row[i]] : [])));
}
