import type { PanelQuestion } from "./panel-question.ts";

/**
 * The question with every KPI written with `decimals`, so that figures, words and tables of a panel agree;
 * the question itself where a panel has none of its own. Figures are not rounded by it.
 */
export function withOwnDecimals(question: PanelQuestion, decimals: number | undefined): PanelQuestion {
  if (decimals === undefined) return question;
  const { company } = question;
  const kpis = new Map(
    [...company.kpis].map(([key, kpi]) => [key, { ...kpi, definition: { ...kpi.definition, decimals } }]),
  );
  return { ...question, company: { ...company, kpis } };
}
