import type { PanelQuestion } from "./panel-question.ts";
import type { KpiUnit } from "../figures/schema.ts";

/**
 * The question with every KPI written with `decimals`, so that figures, words and tables of a panel agree;
 * the question itself where a panel has none of its own. Figures are not rounded by it.
 */
export function withOwnDecimals(question: PanelQuestion, decimals: number | undefined): PanelQuestion {
  if (decimals === undefined) return question;
  const { company } = question;
  const kpis = new Map(
    [...company.kpis].map(([key, kpi]) => {
      const { unit } = kpi.definition;
      const own: KpiUnit = unit.kind === "money" ? { ...unit, decimals } : unit;
      return [key, { ...kpi, definition: { ...kpi.definition, unit: own, decimals } }];
    }),
  );
  return { ...question, company: { ...company, kpis } };
}
