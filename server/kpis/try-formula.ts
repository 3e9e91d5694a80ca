import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween } from "#core/calendar/month.ts";
import { formatSpan, spanName, type Span } from "#core/calendar/span.ts";
import { compareKpi, hasInputs } from "#core/compare/compare-kpi.ts";
import type { Frame } from "#core/compare/frame.ts";
import { measureMonth } from "#core/compare/measure.ts";
import type { Ask } from "#core/compare/plan-reads.ts";
import { comparisonAsks } from "#core/compare/scorecard.ts";
import { ACTUAL } from "#core/compare/side.ts";
import { monthWindow } from "#core/compare/window.ts";
import { absent } from "#core/figures/figure.ts";
import { compileFormula } from "#core/formula/compile.ts";
import type { CompiledFormula, ResultUnit } from "#core/formula/node.ts";
import { parseFormula } from "#core/formula/parse.ts";
import { printFormula } from "#core/formula/print.ts";
import { unitName } from "#core/formula/typed.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import type { KpiUnit } from "#core/kpis/kpi.ts";
import { coverageNotes } from "#core/words/coverage-words.ts";
import type { FormulaTried, FormulaTry } from "#contract/kpis.ts";
import { measureFrame, readContext } from "#server/engine/read-context.ts";
import { resolveFrame } from "#server/engine/resolve-frame.ts";
import type { Workspace } from "#server/engine/workspace.ts";
import { namesOf } from "./library.ts";

/** Months of the chart beside a formula. */
const SHOWN_MONTHS = 24;
const MONTH: Span = { kind: "month" };
const YEAR_TO_DATE: Span = { kind: "year-to-date" };

/** What a formula gives in a frame, or where it is wrong. */
export async function tryFormula(
  workspace: Workspace,
  { formula: text, self, ...query }: FormulaTry,
): Promise<FormulaTried> {
  const { structure } = workspace;
  const kpis = new Map([...structure.kpis].map(([key, kpi]) => [key, kpi.definition.formula]));
  const compiled = compileFormula(text, { ...namesOf(structure), kpis, ...(self === null ? {} : { self }) });
  if (!compiled.ok) return { problem: compiled.problem };
  const kpi = triedKpi(text, compiled.value);
  const resolved = resolveFrame(query, workspace);
  const frame = measureFrame(workspace, resolved);
  const spans =
    resolved.frame.span.kind === "month" || resolved.frame.span.kind === "year-to-date"
      ? [MONTH, YEAR_TO_DATE]
      : [MONTH, resolved.frame.span];
  const frames = spans.map((span): Frame => ({ ...resolved.frame, span }));
  const { asOf } = resolved.frame;
  const months = monthsBetween(asOf - SHOWN_MONTHS + 1, asOf);
  const budget = frame.coverage.scenarios.get("budget");
  const budgetSide =
    budget && hasInputs(kpi, "budget", frame) ? { scenario: "budget", shift: 0, name: budget.name } : undefined;
  const windows = months.map(monthWindow);
  const asks: Ask[] = [
    ...frames.flatMap((own) => comparisonAsks([kpi], own, frame)),
    { kpis: [kpi], side: ACTUAL, windows },
    ...(budgetSide ? [{ kpis: [kpi], side: budgetSide, windows }] : []),
  ];
  const context = await readContext(workspace.source, frame, asks);
  const comparisons = frames.map((own) => compareKpi(kpi, own, context));
  const parsed = parseFormula(text);
  const { calendar, accounts } = structure;
  return {
    frame: resolved.wire,
    type: typeWords(compiled.value),
    unit: suggestedUnit(compiled.value.unit),
    decimals: suggestedDecimals(compiled.value.unit),
    printed: parsed.ok ? printFormula(parsed.value) : text,
    points: months.map((month) => ({
      month: formatMonth(month),
      name: periodName(calendar, month),
      actual: measureMonth(kpi, ACTUAL, month, context).figure,
      budget: budgetSide
        ? measureMonth(kpi, budgetSide, month, context).figure
        : absent("not covered", "There is no budget for it."),
    })),
    figures: comparisons.map((comparison, i) => ({
      name: formatSpan(spans[i]!) === "month" ? periodName(calendar, asOf) : spanName(spans[i]!),
      months: monthsName(calendar, comparison.asked),
      actual: comparison.actual.figure,
      basisName: comparison.basis.side.scenario === "" ? resolved.wire.words.basis : comparison.basis.side.name,
      basis: comparison.basis.figure,
      variance: comparison.variance,
    })),
    notes: [...new Set(comparisons.flatMap((c) => coverageNotes(c, { calendar, accounts, fallbackFrom: null })))],
  };
}

function triedKpi(text: string, formula: CompiledFormula): CompiledKpi {
  return {
    formula,
    definition: {
      key: "tried",
      name: "The formula",
      formula: text,
      unit: suggestedUnit(formula.unit) ?? { kind: "ratio", of: "yes or no" },
      decimals: suggestedDecimals(formula.unit),
      direction: "neutral",
      tolerance: { kind: "percent", percent: 0 },
      owner: "",
      description: "",
      status: null,
      fallbackBasis: null,
    },
  };
}

function suggestedUnit(unit: ResultUnit): KpiUnit | null {
  switch (unit.kind) {
    case "money":
    case "days":
      return { kind: unit.kind };
    case "count":
      return unit;
    case "plain":
      return { kind: "percent" };
    case "per":
      return unit.over === "money" ? { kind: "money-per", per: unit.by } : { kind: "ratio", of: `per ${unit.by}` };
    case "truth":
      return null;
  }
}

function suggestedDecimals({ kind }: ResultUnit): number {
  return { money: 0, count: 0, plain: 1, per: 2, days: 1, truth: 0 }[kind];
}

function typeWords({ unit, behaviour }: CompiledFormula): string {
  const time = {
    flow: "adds up over time",
    balance: "a balance: the closing one of the span",
    rate: "reckoned anew for each span",
    constant: "the same at all times",
  }[behaviour];
  return `${unit.kind === "plain" ? "percent or ratio" : unitName(unit)}, ${time}`;
}
