import { monthsPhrase } from "../../calendar/fiscal-calendar.ts";
import type { Comparison } from "../../compare/compare-kpi.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { coverageNotes } from "../../words/coverage-words.ts";
import type { VarianceFacts } from "../../words/variance-words.ts";
import type { PanelQuestion } from "../panel-question.ts";
import type { KpiHead } from "./schema.ts";

export function kpiHead({ definition }: CompiledKpi): KpiHead {
  const { key, name, unit, decimals, direction, tolerance, description } = definition;
  return { key, name, unit, decimals, direction, tolerance, description };
}

/** What a comparison leaves out, in a reader's words. */
export function notesOf(comparison: Comparison, { company, asked }: PanelQuestion): string[] {
  const { calendar, accounts } = company;
  const fallbackFrom = comparison.isFallback ? asked.answer.words.basis : null;
  return coverageNotes(comparison, { calendar, accounts, fallbackFrom });
}

/** What the words of a variance are made from. */
export function varianceFacts(comparison: Comparison, kpi: CompiledKpi, question: PanelQuestion): VarianceFacts {
  const { unit, decimals } = kpi.definition;
  return {
    unit,
    decimals,
    money: question.asked.unit,
    basisName: basisName(comparison, question),
    comparedOver: comparedOver(comparison, question),
    ...comparison.variance,
  };
}

/** What a comparison's basis is called; the frame's word where there is none. */
export function basisName({ basis }: Comparison, { asked }: PanelQuestion): string {
  return basis.side.scenario === "" ? asked.answer.words.basis : basis.side.name;
}

function comparedOver({ asked, compared }: Comparison, { company, asked: { frame } }: PanelQuestion): string | null {
  if (compared.length === 0 || compared.length >= asked.length) return null;
  return monthsPhrase(company.calendar, compared, frame.asOf);
}
