import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth, monthName, yearOf } from "#core/calendar/month.ts";
import { compareKpi, compareSides } from "#core/compare/compare-kpi.ts";
import { answerOf, type Measurement } from "#core/compare/measure.ts";
import { scorecardAsks } from "#core/compare/scorecard.ts";
import { ACTUAL, PRIOR_YEAR } from "#core/compare/side.ts";
import { toMajor } from "#core/figures/amount.ts";
import { map } from "#core/figures/figure.ts";
import { scopeName } from "#core/dimensions/scope.ts";
import { spanWindow } from "#core/compare/window.ts";
import type { FormulaInput } from "#core/formula/node.ts";
import { parseFormula } from "#core/formula/parse.ts";
import { printFormula } from "#core/formula/print.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import { coverageNotes, leftOutNotes } from "#core/words/coverage-words.ts";
import type { ProvenanceAnswer, ProvenanceSide, SourceLinesAnswer } from "#contract/provenance.ts";
import { kpiHead, requireKpi } from "./kpi-answers.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";
import { ProblemError } from "#server/http/problem-error.ts";

/** How a figure was made: formula, aggregated inputs, months, and what was left out. */
export async function explainFigure(
  workspace: Workspace,
  resolved: ResolvedFrame,
  kpiKey: string,
  side: ProvenanceSide,
): Promise<ProvenanceAnswer> {
  const kpi = requireKpi(workspace, kpiKey);
  const { measurement, notes, asked } = await measureSide(workspace, resolved, kpi, side);
  const { calendar } = workspace.structure;
  const parsed = parseFormula(kpi.definition.formula);
  return {
    frame: resolved.wire,
    kpi: kpiHead(kpi),
    owner: kpi.definition.owner,
    side,
    sideName: measurement.side.name,
    figure: measurement.figure,
    formula: parsed.ok ? printFormula(parsed.value) : kpi.definition.formula,
    inputs: kpi.formula.inputs.flatMap((input, index) => describeInput(workspace, kpi, measurement, input, index)),
    monthsName: measurement.months.length > 0 ? monthsName(calendar, measurement.months) : "no month",
    months: measurement.months.map(formatMonth),
    asked: measurement.coverage.holdsByQuarter ? measurement.months.length : asked,
    notes,
  };
}

/** The source lines behind one input of a figure, largest first; their sum is the input. */
export async function listSourceLines(
  workspace: Workspace,
  resolved: ResolvedFrame,
  {
    kpi: kpiKey,
    side,
    input,
    offset,
    limit,
  }: { kpi: string; side: ProvenanceSide; input: number; offset: number; limit: number },
): Promise<SourceLinesAnswer> {
  const kpi = requireKpi(workspace, kpiKey);
  const { measurement } = await measureSide(workspace, resolved, kpi, side);
  const asked = kpi.formula.inputs[input];
  if (!asked)
    throw new ProblemError(
      "invalid-request",
      `The formula of ${kpi.definition.name} has ${kpi.formula.inputs.length} inputs, numbered from 0; there is no input ${input}.`,
    );
  if (asked.kind !== "account")
    throw new ProblemError(
      "invalid-request",
      "Days, months and which member is looked at follow from the page: no source lines lie behind them.",
    );
  const { accounts, calendar } = workspace.structure;
  const account = accounts.accounts.get(asked.account)!;
  const view = measurement.coverage.views[asked.view]!;
  const gathered = measurement.viewMonths[asked.view]!;
  const months = asked.gathering === "closing" ? gathered.slice(-1) : gathered;
  const found = await workspace.source.lines({
    scenario: view.side.scenario,
    accounts: answerOf(kpi, measurement, input)?.leaves ?? [],
    months,
    scope: view.scope,
    offset,
    limit,
    ...(view.window.throughDay === undefined ? {} : { throughDay: view.window.throughDay }),
  });
  const divisor = asked.gathering === "average" ? Math.max(1, months.length) : 1;
  return {
    total: found.total,
    sum: toMajor(found.sum / divisor, account.decimals),
    decimals: account.decimals,
    unit: account.unit.kind === "money" ? "€" : account.unit.of,
    offset,
    lines: found.lines.map((line) => ({
      load: line.load,
      postedOn: line.postedAt.toISOString().slice(0, 10),
      line: line.line,
      period:
        line.day === null
          ? periodName(calendar, line.month)
          : `${line.day} ${monthName(line.month)} ${yearOf(line.month)}`,
      account: accounts.accounts.get(line.account)!.name,
      members: [...line.members],
      reference: line.reference,
      amount: toMajor(line.amount, accounts.accounts.get(line.account)!.decimals),
    })),
  };
}

async function measureSide(
  workspace: Workspace,
  resolved: ResolvedFrame,
  kpi: CompiledKpi,
  side: ProvenanceSide,
): Promise<{ measurement: Measurement; notes: string[]; asked: number }> {
  const { calendar, accounts } = workspace.structure;
  const base = measureFrame(workspace, resolved);
  const context = await readContext(
    workspace.source,
    base,
    scorecardAsks([kpi], resolved.frame, base, { priorYear: true, toDate: false, outlook: false, trendMonths: 0 }),
  );
  const comparison = compareKpi(kpi, resolved.frame, context);
  const asked = comparison.asked.length;
  if (side === "prior-year") {
    const window = spanWindow(base.coverage, resolved.frame.span, resolved.frame.asOf);
    const priorYear = compareSides(kpi, ACTUAL, PRIOR_YEAR, window, context);
    return {
      measurement: priorYear.basis,
      notes: coverageNotes(priorYear, { calendar, accounts, fallbackFrom: null }),
      asked,
    };
  }
  const fallbackFrom = comparison.isFallback ? resolved.wire.words.basis : null;
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
      ...new Set([
        ...coverageNotes(own, { calendar, accounts, fallbackFrom: null }),
        ...leftOutNotes(comparison.actual.coverage, accounts),
      ]),
    ],
    asked,
  };
}

/** An input in a reader's words; none for what the page itself says, such as which member is looked at. */
function describeInput(
  { structure }: Workspace,
  kpi: CompiledKpi,
  measurement: Measurement,
  input: FormulaInput,
  index: number,
): ProvenanceAnswer["inputs"] {
  if (input.kind === "member") return [];
  const { accounts, calendar, coverage, dimensions } = structure;
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
        accountName: `${name} ${input.count === "whole" ? "in the whole of it" : "with figures"}`,
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
  const account = accounts.accounts.get(input.account)!;
  const answer = answerOf(kpi, measurement, index);
  return [
    {
      index,
      account: account.key,
      accountName: account.name,
      gathering: input.gathering,
      figure: map(figure, (minor) => toMajor(minor, account.decimals)),
      unit: account.unit.kind === "money" ? "€" : account.unit.of,
      decimals: account.decimals,
      datasets: (answer?.datasets ?? []).map((key) => coverage.datasets.get(key)!.name),
      leaves: answer?.leaves.length ?? 0,
      reads,
    },
  ];
}
