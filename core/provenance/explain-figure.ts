import {
  fiscalYearOf,
  fiscalYearStart,
  monthsName,
  rangeName,
  type FiscalCalendar,
} from "../calendar/fiscal-calendar.ts";
import { formatMonth } from "../calendar/month.ts";
import { compareKpi, compareSides } from "../compare/compare-kpi.ts";
import { answerOf } from "../compare/measure.ts";
import { SHOWN, sidePlaces } from "../compare/side.ts";
import { toMajor } from "../figures/amount.ts";
import { map } from "../figures/figure.ts";
import { scopeName } from "../dimensions/scope.ts";
import { spanWindow } from "../compare/window.ts";
import type { FormulaInput } from "../formula/node.ts";
import { parseFormula } from "../formula/parse.ts";
import { printFormula } from "../formula/print.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { moneySign } from "../formats/currency.ts";
import { coverageNotes, leftOutNotes } from "../words/coverage-words.ts";
import type { Month } from "../calendar/month.ts";
import { requireKpi } from "../frame/company.ts";
import { QuestionRefused } from "../frame/question-refused.ts";
import { measureContext, type PanelQuestion } from "../panels/panel-question.ts";
import { kpiHead } from "../panels/parts/kpi-head.ts";
import { scenarioSides } from "../panels/parts/scenario-sides.ts";
import type { Measurement } from "../compare/measurement.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { Figure } from "../figures/schema.ts";
import type { KpiHead } from "../panels/parts/schema.ts";
import type { FrameAnswer } from "../frame/schema.ts";

/** Which side of a comparison is asked about: the actual, the basis it is compared with, or a scenario by its place in the code. */
export const FIGURE_SIDES = ["actual", "basis", "prior-year", "budget", "forecast", "target"] as const;
export type FigureSide = (typeof FIGURE_SIDES)[number];

/** One input of a formula, aggregated over span and scope before the formula is applied. */
export interface ProvenanceInput {
  readonly index: number;
  readonly account: string;
  readonly accountName: string;
  readonly gathering: "sum" | "closing" | "average" | "clock" | "nested";
  readonly figure: Figure;
  readonly unit: string;
  readonly decimals: number;
  readonly datasets: readonly string[];
  readonly leaves: number;
  /** What it reads; side and scope only where they are not those of the whole figure. */
  readonly reads: { readonly side: string | null; readonly months: string; readonly scope: string | null };
}

/** How a figure was made. */
export interface ProvenanceAnswer {
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly owner: string;
  readonly side: FigureSide;
  readonly sideName: string;
  readonly figure: Figure;
  readonly formula: string;
  readonly inputs: readonly ProvenanceInput[];
  /** The months that went in, in words and one by one. */
  readonly monthsName: string;
  readonly months: readonly string[];
  readonly asked: number;
  readonly notes: readonly string[];
}

/** Which source lines lie behind one input of a figure. */
export interface InputLines {
  /** The scenarios that were read, each in its months. */
  readonly places: readonly { readonly scenario: string; readonly months: readonly Month[] }[];
  readonly accounts: readonly string[];
  readonly scope: Scope;
  readonly throughDay?: number;
  readonly decimals: number;
  readonly unit: string;
  /** By what their sum is divided to give the input. */
  readonly divisor: number;
}

/** How a figure was made: formula, aggregated inputs, months, and what was left out. */
export function explainFigure(
  question: PanelQuestion,
  { kpi: key, side }: { readonly kpi: string; readonly side: FigureSide },
): ProvenanceAnswer {
  const kpi = requireKpi(question.company, key);
  const { measurement, notes, asked } = measureSide(question, kpi, side);
  const { calendar } = question.company;
  const parsed = parseFormula(kpi.definition.formula);
  return {
    frame: question.asked.answer,
    kpi: kpiHead(kpi),
    owner: kpi.definition.owner,
    side,
    sideName: measurement.side.name,
    figure: measurement.figure,
    formula: parsed.ok ? printFormula(parsed.value) : kpi.definition.formula,
    inputs: kpi.formula.inputs.flatMap((input, index) => describeInput(question, kpi, measurement, input, index)),
    monthsName: measurement.months.length > 0 ? monthsName(calendar, measurement.months) : "no month",
    months: measurement.months.map(formatMonth),
    asked: measurement.coverage.holdsByQuarter ? measurement.months.length : asked,
    notes,
  };
}

/** Which source lines lie behind one input of a figure; their sum is the input. */
export function inputLines(
  question: PanelQuestion,
  { kpi: key, side, input }: { readonly kpi: string; readonly side: FigureSide; readonly input: number },
): InputLines {
  const kpi = requireKpi(question.company, key);
  const { measurement } = measureSide(question, kpi, side);
  const asked = kpi.formula.inputs[input];
  if (!asked)
    throw new QuestionRefused(
      "invalid-request",
      `The formula of ${kpi.definition.name} has ${kpi.formula.inputs.length} inputs, numbered from 0; there is no input ${input}.`,
    );
  if (asked.kind !== "account")
    throw new QuestionRefused(
      "invalid-request",
      "Days, months, which member is looked at, and what is calculated month by month have no source lines of their own.",
    );
  const account = question.company.accounts.accounts.get(asked.account)!;
  const view = measurement.coverage.views[asked.view]!;
  const gathered = measurement.viewMonths[asked.view]!;
  const months = asked.gathering === "closing" ? gathered.slice(-1) : gathered;
  return {
    places: sidePlaces(view.side, months),
    accounts: answerOf(kpi, measurement, input)?.leaves ?? [],
    scope: view.scope,
    ...(view.window.throughDay === undefined ? {} : { throughDay: view.window.throughDay }),
    decimals: account.decimals,
    unit: account.unit.kind === "money" ? moneySign() : account.unit.of,
    divisor: asked.gathering === "average" ? Math.max(1, months.length) : 1,
  };
}

function measureSide(
  question: PanelQuestion,
  kpi: CompiledKpi,
  side: FigureSide,
): { measurement: Measurement; notes: string[]; asked: number } {
  const { calendar, accounts } = question.company;
  const { frame, answer } = question.asked;
  const context = measureContext(question);
  const comparison = compareKpi(kpi, frame, context);
  const asked = comparison.asked.length;
  if (side !== "actual" && side !== "basis") {
    const found = scenarioSides(kpi, question).find(({ key }) => key === side);
    if (!found)
      throw new QuestionRefused(
        "unknown-basis",
        `${kpi.definition.name} has no ${side}: ask for another side of it, such as actual or basis.`,
      );
    const window = spanWindow(context, frame.span, frame.asOf);
    const compared = compareSides(kpi, SHOWN, found.side, window, context);
    return {
      measurement: compared.basis,
      notes: coverageNotes(compared, { calendar, accounts, fallbackFrom: null }),
      asked,
    };
  }
  const fallbackFrom = comparison.isFallback ? answer.words.basis : null;
  if (side === "basis")
    return {
      measurement: comparison.basis,
      notes: coverageNotes(comparison, { calendar, accounts, fallbackFrom }),
      asked,
    };
  const own = { ...comparison, compared: comparison.actual.coverage.months };
  return {
    measurement: comparison.actual,
    notes: [
      ...outlookNotes(comparison.actual, calendar),
      ...new Set([
        ...coverageNotes(own, { calendar, accounts, fallbackFrom: null }),
        ...leftOutNotes(comparison.actual.coverage, accounts),
      ]),
    ],
    asked,
  };
}

/** From where the months of an outlook are read; nothing of other sides. */
function outlookNotes({ side: { then } }: Measurement, calendar: FiscalCalendar): string[] {
  if (!then) return [];
  const { name, after, open } = then;
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, after + 1));
  const closed = after < start ? "No month is closed" : `${rangeName(calendar, start, after)} is actual`;
  if (!open) return [`${closed}; the months after that are ${name}'s.`];
  const days = `${open.days} days of ${monthsName(calendar, [open.month])} are actual`;
  return [
    `${closed}, and ${days}; the rest of that month is ${name}'s by its share of the days, and so are the months after.`,
  ];
}

const CLOCK_WORDS = {
  whole: "in the whole of it",
  elapsed: "with figures",
  "year-elapsed": "of the fiscal year so far",
  "year-left": "of the fiscal year that are left",
} as const;

/** An input in a reader's words; none for what the page itself says, such as which member is looked at. */
function describeInput(
  { company }: PanelQuestion,
  kpi: CompiledKpi,
  measurement: Measurement,
  input: FormulaInput,
  index: number,
): readonly ProvenanceInput[] {
  if (input.kind === "member") return [];
  const { accounts, calendar, coverage, dimensions } = company;
  const view = measurement.coverage.views[input.view]!;
  const months = measurement.viewMonths[input.view]!;
  const figure = measurement.inputs[index]!;
  const lead = measurement.coverage;
  // What an input reads is said where it is not what the figure as a whole reads.
  const reads = {
    side: view.side.name === lead.side.name && view.side.shift === lead.side.shift ? null : view.side.name,
    months: months.length === 0 ? "no month" : monthsName(calendar, months),
    scope: view.scope === lead.scope ? null : scopeName(dimensions, view.scope, "everything"),
  };
  if (input.kind === "clock") {
    const name = input.unit === "day" ? "Days" : "Months";
    return [
      {
        index,
        account: "",
        accountName: `${name} ${CLOCK_WORDS[input.count]}`,
        gathering: "clock",
        figure,
        unit: `${input.unit}s`,
        decimals: 0,
        datasets: [],
        leaves: 0,
        reads,
      },
    ];
  }
  if (input.kind === "monthly" || input.kind === "outlook") {
    const { decimals } = input.formula.root;
    return [
      {
        index,
        account: "",
        accountName: input.kind === "outlook" ? "The outlook of the year" : `Month by month: ${input.how}`,
        gathering: "nested",
        figure: map(figure, (minor) =>
          toMajor(minor, input.kind === "monthly" && input.how === "count" ? 0 : decimals),
        ),
        unit: input.formula.unit.kind === "money" ? moneySign() : "",
        decimals,
        datasets: [],
        leaves: 0,
        reads,
      },
    ];
  }
  const account = accounts.accounts.get(input.account)!;
  const answer = answerOf(kpi, measurement, index);
  return [
    {
      index,
      account: account.key,
      accountName: account.name,
      gathering: input.gathering,
      figure: map(figure, (minor) => toMajor(minor, account.decimals)),
      unit: account.unit.kind === "money" ? moneySign() : account.unit.of,
      decimals: account.decimals,
      datasets: (answer?.datasets ?? []).map((key) => coverage.datasets.get(key)!.name),
      leaves: answer?.leaves.length ?? 0,
      reads,
    },
  ];
}
