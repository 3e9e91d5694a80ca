import { formatMonth } from "#core/calendar/month.ts";
import { kpiStatus, statusAsks } from "#core/compare/kpi-status.ts";
import type { MeasureContext, MeasureFrame } from "#core/compare/measure.ts";
import type { Ask } from "#core/compare/plan-reads.ts";
import { scorecardAsks, scorecardRow, type RowParts } from "#core/compare/scorecard.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { varianceWords } from "#core/words/variance-words.ts";
import type { ScorecardRowAnswer } from "#contract/panels.ts";
import { kpiHead, notesOf, varianceFacts } from "./kpi-answers.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** Months of a row's trend. */
export const TREND_MONTHS = 24;

/** What rows of these KPIs look up, their statuses included. */
export function rowAsks(
  { structure }: Workspace,
  { frame }: ResolvedFrame,
  kpis: readonly CompiledKpi[],
  own: MeasureFrame,
  parts: RowParts,
): Ask[] {
  return [...scorecardAsks(kpis, frame, own, parts), ...statusAsks(kpis, frame, own, structure.kpis)];
}

/** A KPI's row in a reader's words, and the facts that sentences are made from. */
export function rowAnswer(
  kpi: CompiledKpi,
  parts: RowParts,
  context: MeasureContext,
  workspace: Workspace,
  resolved: ResolvedFrame,
): { answer: ScorecardRowAnswer; facts: ReturnType<typeof varianceFacts> } {
  const { comparison, priorYear, toDate, outlook, trend } = scorecardRow(kpi, resolved.frame, context, parts);
  const status = kpiStatus(kpi, comparison, resolved.frame, context, workspace.structure.kpis);
  const facts = varianceFacts(comparison, kpi, resolved);
  return {
    facts,
    answer: {
      kpi: kpiHead(kpi),
      actual: comparison.actual.figure,
      basis: comparison.basis.figure,
      basisName: comparison.basis.side.scenario === "" ? resolved.wire.words.basis : comparison.basis.side.name,
      basisKey: comparison.isFallback ? comparison.basis.side.scenario : resolved.wire.basis,
      isFallback: comparison.isFallback,
      variance: comparison.variance,
      words: varianceWords(facts),
      status: status === null || "absent" in status ? status : { ...status, shownAs: kpi.definition.status!.shownAs },
      priorYear: priorYear && priorYear.basis.figure,
      growth: priorYear && priorYear.variance.deltaPercent,
      toDate: toDate && { actual: toDate.actual.figure, basis: toDate.basis.figure, variance: toDate.variance },
      outlook: outlook && {
        actual: outlook.figure,
        basis: outlook.basis,
        variance: outlook.variance,
        sourceName: outlook.source?.name ?? null,
      },
      trend: trend.map(({ month, measurement }) => ({ month: formatMonth(month), actual: measurement.figure })),
      notes: notesOf(comparison, workspace, resolved.wire.words.basis),
    },
  };
}
