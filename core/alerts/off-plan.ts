import { measureContext, type PanelQuestion } from "../panels/panel-question.ts";
import { kpiRow } from "../panels/parts/kpi-row.ts";
import type { KpiRow } from "../panels/parts/schema.ts";

/** A KPI that is off plan, as far as a reader needs to know to look at it. */
export type OffPlan = Pick<KpiRow, "kpi" | "basisName" | "variance" | "status" | "words">;

const NOTHING_MORE = { priorYear: false, toDate: false, outlook: false, trendMonths: 0 };

/**
 * The KPIs of the library that stand badly in the frame, worst first: by how many tolerances they are off. A KPI with
 * bands stands badly in its poor one, another where its variance is unfavourable.
 */
export function kpisOffPlan(question: PanelQuestion): OffPlan[] {
  const context = measureContext(question);
  return [...question.company.kpis.values()]
    .map((kpi) => kpiRow(kpi, NOTHING_MORE, context, question).row)
    .filter(isOffPlan)
    .sort((a, b) => Math.abs(b.variance.tolerances ?? 0) - Math.abs(a.variance.tolerances ?? 0))
    .map(({ kpi, basisName, variance, status, words }) => ({ kpi, basisName, variance, status, words }));
}

function isOffPlan({ status, variance }: KpiRow): boolean {
  if (status !== null && "grade" in status) return status.grade === "poor";
  return variance.judgement === "unfavourable";
}
