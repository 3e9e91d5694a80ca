import { monthsName, periodName } from "../calendar/fiscal-calendar.ts";
import { formatMonth, monthsBetween } from "../calendar/month.ts";
import { formatSpan, isOpenSpan, spanName, type Span } from "../calendar/span.ts";
import { compareKpi } from "../compare/compare-kpi.ts";
import { hasInputs } from "../compare/has-inputs.ts";
import { measureMonth } from "../compare/measure.ts";
import { SHOWN } from "../compare/side.ts";
import { absent } from "../figures/figure.ts";
import { compileFormula } from "../formula/compile.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { parseFormula } from "../formula/parse.ts";
import { printFormula } from "../formula/print.ts";
import { unitName, type ResultUnit } from "../formula/unit.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { coverageNotes } from "../words/coverage-words.ts";
import type { FormulaProblem } from "../formula/expression.ts";
import { closedMonth, datasetsOfFormula } from "../frame/closed-month.ts";
import type { FrameQuery } from "../frame/schema.ts";
import { resolveFrame } from "../frame/resolve-frame.ts";
import { isBare } from "../formula/unit.ts";
import { formulaNames } from "../frame/company.ts";
import { measureContext, type PanelQuestion } from "../panels/panel-question.ts";
import type { Figure, Variance, KpiUnit } from "../figures/schema.ts";
import type { FrameAnswer } from "../frame/schema.ts";

/** What a formula gives at once: its type, its last months, this month, to date and against budget. */
export interface FormulaResultTried {
  readonly frame: FrameAnswer;
  /** "money, adds up over time" */
  readonly type: string;
  /** The unit it fits; `null` for a yes or no, which is no KPI. */
  readonly unit: KpiUnit | null;
  readonly decimals: number;
  readonly printed: string;
  readonly points: readonly {
    readonly month: string;
    readonly name: string;
    readonly actual: Figure;
    readonly budget: Figure;
  }[];
  readonly figures: readonly {
    readonly name: string;
    readonly months: string;
    readonly actual: Figure;
    readonly basisName: string;
    readonly basis: Figure;
    readonly variance: Variance;
  }[];
  readonly notes: readonly string[];
}

/** The same, or where the formula is wrong. */
export type FormulaTried = { readonly problem: FormulaProblem } | FormulaResultTried;

/** Months of the chart beside a formula. */
const SHOWN_MONTHS = 24;
const MONTH: Span = { kind: "month" };
const YEAR_TO_DATE: Span = { kind: "year-to-date" };

/**
 * What a formula gives in a frame, or where it is wrong; `self` is the KPI it belongs to. Where no month is asked for, it
 * is the last one that is closed of what the formula reads, which is not always that of the company's books.
 */
export function tryFormula(
  text: string,
  { self, query }: { readonly self: string | null; readonly query: FrameQuery },
  whole: PanelQuestion,
): FormulaTried {
  const { company } = whole;
  const compiled = compileFormula(text, { ...formulaNames(company), ...(self === null ? {} : { self }) });
  if (!compiled.ok) return { problem: compiled.problem };
  const kpi = triedKpi(text, compiled.value);
  const closed = closedMonth(company, datasetsOfFormula(compiled.value, company));
  const asked =
    query.asOf !== undefined || query.pack !== undefined
      ? whole.asked
      : resolveFrame({ ...query, asOf: formatMonth(closed) }, company, whole.access);
  const question = { ...whole, asked };
  const context = measureContext(question);
  const { asOf, span } = asked.frame;
  const spans = span.kind === "month" || span.kind === "year-to-date" ? [MONTH, YEAR_TO_DATE] : [MONTH, span];
  const comparisons = spans.map((own) => compareKpi(kpi, { ...asked.frame, span: own }, context));
  const months = monthsBetween(asOf - SHOWN_MONTHS + 1, asOf);
  const budget = context.coverage.scenarios.get("budget");
  const hasBudget = budget && hasInputs(kpi, "budget", context);
  const parsed = parseFormula(text);
  const { calendar, accounts } = company;
  return {
    frame: asked.answer,
    type: typeWords(compiled.value),
    unit: suggestedUnit(compiled.value.unit),
    decimals: suggestedDecimals(compiled.value),
    printed: parsed.ok ? printFormula(parsed.value) : text,
    points: months.map((month) => ({
      month: formatMonth(month),
      name: periodName(calendar, month),
      actual: measureMonth(kpi, SHOWN, month, context).figure,
      budget: hasBudget
        ? measureMonth(kpi, { scenario: "budget", shift: 0, name: budget.name }, month, context).figure
        : absent("not covered", "There is no budget for it."),
    })),
    figures: comparisons.map((comparison, i) => ({
      name:
        formatSpan(spans[i]!) === "month"
          ? periodName(calendar, asOf)
          : spanName(spans[i]!, isOpenSpan(calendar, spans[i]!, asOf)),
      months: monthsName(calendar, comparison.asked),
      actual: comparison.actual.figure,
      basisName: comparison.basis.side.scenario === "" ? asked.answer.words.basis : comparison.basis.side.name,
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
      decimals: suggestedDecimals(formula),
      direction: "neutral",
      tolerance: { kind: "percent", percent: 0 },
      owner: "",
      description: "",
      status: null,
      fallbackBasis: null,
    },
  };
}

/** The unit a formula's result fits best; `null` for a yes or no. */
export function suggestedUnit(unit: ResultUnit): KpiUnit | null {
  switch (unit.kind) {
    case "money":
    case "days":
      return { kind: unit.kind };
    case "count":
      return unit;
    case "plain":
      return isBare(unit) ? { kind: "ratio", of: "" } : { kind: "percent" };
    case "rank":
      return { kind: "ratio", of: "rank" };
    case "per":
      return unit.over === "money"
        ? { kind: "money-per", per: singular(unit.by) }
        : { kind: "ratio", of: unitName(unit) };
    case "product":
      return { kind: "ratio", of: unitName(unit) };
    case "truth":
      return null;
  }
}

/** "€ per day" rather than "€ per days". */
function singular(name: string): string {
  return name.replace(/([^s])s$/, "$1");
}

function suggestedDecimals({ unit, root }: CompiledFormula): number {
  if (isBare(unit)) return root.kind === "choice" || root.kind === "constant" ? Math.min(root.decimals, 2) : 2;
  const { kind } = unit;
  return { money: 0, count: 0, plain: 1, rank: 0, per: 2, product: 2, days: 1, truth: 0 }[kind];
}

/** What a formula's result is, and how it behaves over time, in words. */
export function typeWords({ unit, behaviour, gathering }: CompiledFormula): string {
  const time = {
    flow: "adds up over time",
    balance: gathering === null ? "a balance" : BALANCE_WORDS[gathering],
    rate: "calculated for each span from its totals",
    moving: "looks at months of its own, so it does not add up over time",
    constant: "the same at all times",
  }[behaviour];
  return `${unit.kind === "plain" ? (isBare(unit) ? "a number" : "percent or ratio") : unitName(unit)}, ${time}`;
}

const BALANCE_WORDS = {
  closing: "a balance: its value at the end of the span",
  opening: "a balance: its value at the start of the span",
  average: "a balance: the average over the months of the span",
} as const;
