import { monthOutside } from "../../ahead/month-outside.ts";
import { formatMonth } from "../../calendar/month.ts";
import { attainmentOf } from "../../compare/attainment.ts";
import { kpiStatus } from "../../compare/kpi-status.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { outlookNote } from "../../compare/outlook.ts";
import { codeOfScenario } from "../../compare/scenario-code.ts";
import { scorecardRow, type RowParts } from "../../compare/scorecard.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { varianceWords, type VarianceFacts } from "../../words/variance-words.ts";
import type { PanelQuestion } from "../panel-question.ts";
import { basisName, kpiHead, notesOf, varianceFacts } from "./kpi-head.ts";
import type { KpiRow } from "./schema.ts";

/** Months of a row's trend. */
export const TREND_MONTHS = 24;

/** What a row is asked for. */
export interface KpiRowParts extends RowParts {
  /** Whether it is marked where its month is out of the ordinary. */
  readonly marksOutside?: boolean | undefined;
}

/** A KPI's row, and the facts that sentences are made from. The context's scope is the row's own. */
export function kpiRow(
  kpi: CompiledKpi,
  parts: KpiRowParts,
  context: MeasureContext,
  question: PanelQuestion,
): { row: KpiRow; facts: VarianceFacts } {
  const { company, asked } = question;
  const { comparison, priorYear, toDate, outlook, trend } = scorecardRow(kpi, asked.frame, context, parts);
  const status = kpiStatus(kpi, comparison, asked.frame, context, company.kpis);
  const facts = varianceFacts(comparison, kpi, question);
  return {
    facts,
    row: {
      kpi: kpiHead(kpi),
      actual: comparison.actual.figure,
      basis: comparison.basis.figure,
      basisName: basisName(comparison, question),
      basisCode: comparison.isFallback
        ? codeOfScenario(comparison.basis.side.scenario, company.coverage)
        : asked.answer.basisCode,
      isFallback: comparison.isFallback,
      variance: comparison.variance,
      attainment: attainmentOf(comparison.actualInCommon.figure, comparison.basis.figure),
      words: varianceWords(facts),
      status: status === null || "absent" in status ? status : { ...status, shownAs: kpi.definition.status!.shownAs },
      priorYear: priorYear && priorYear.basis.figure,
      growth: priorYear && priorYear.variance.deltaPercent,
      toDate: toDate && { actual: toDate.actual.figure, basis: toDate.basis.figure, variance: toDate.variance },
      outlook: outlook && {
        actual: outlook.figure,
        basis: outlook.basis,
        variance: outlook.variance,
        note: outlookNote(outlook),
      },
      trend: trend.map(({ month, measurement }) => ({ month: formatMonth(month), actual: measurement.figure })),
      // What was expected is of the actual, and says nothing of a version in its place.
      outside:
        parts.marksOutside && asked.frame.shown === undefined ? monthOutside(kpi, asked.frame.asOf, context) : null,
      notes: notesOf(comparison, question),
    },
  };
}
