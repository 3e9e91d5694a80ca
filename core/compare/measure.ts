import type { AccountTree } from "../accounts/account-tree.ts";
import { fiscalQuarterStart, monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import type { CellTable } from "../cube/cell-table.ts";
import { askCoverage, type CoverageAnswer, type CoverageMap } from "../cube/coverage.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import type { Scope } from "../dimensions/scope.ts";
import { absent, present, type Absence, type Figure } from "../figures/figure.ts";
import type { FormulaInput } from "../formula/compile.ts";
import { evaluateFormula } from "../formula/evaluate.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Side } from "./side.ts";

/** All that measuring needs besides the KPI: structure, coverage and the cells that were read. */
export interface MeasureContext {
  readonly accounts: AccountTree;
  readonly calendar: FiscalCalendar;
  readonly dimensions: readonly Dimension[];
  readonly coverage: CoverageMap;
  readonly cells: CellTable;
  readonly scope: Scope;
  /** Why the scope lets nothing through (empty, or outside what the person may see). */
  readonly scopeAbsence?: Absence;
  /** Month to date: the last day counted in each month. */
  readonly throughDay?: number;
}

/** A KPI's inputs as one side covers them. */
export interface SideCoverage {
  readonly side: Side;
  readonly answers: readonly CoverageAnswer[];
  /**
   * A rate kept by quarter holds in each of its quarter's months: over a span it is
   * the rate of the quarters the span touches. A sum kept by quarter has no such parts.
   */
  readonly holdsByQuarter: boolean;
  /** The frame's months (not shifted) on which every input has figures. */
  readonly months: readonly Month[];
  readonly absence: Absence | null;
}

/** A KPI on one side: its figure, the inputs it was made of, and the months that went in. */
export interface Measurement {
  readonly side: Side;
  readonly figure: Figure;
  /** Aggregated inputs in whole minor units of their accounts, in the formula's order. */
  readonly inputs: readonly Figure[];
  /** The months that went in, as this side reads them. */
  readonly months: readonly Month[];
  readonly coverage: SideCoverage;
}

/** Which of the frame's months a side covers for all inputs of a KPI at once. */
export function coverSide(
  kpi: CompiledKpi,
  side: Side,
  asked: readonly Month[],
  context: MeasureContext,
): SideCoverage {
  if (context.scopeAbsence)
    return { side, answers: [], holdsByQuarter: false, months: [], absence: context.scopeAbsence };
  const shifted = asked.map((month) => month - side.shift);
  const quarters = wholeQuarters(shifted, context.calendar);
  const ask = (months: readonly Month[]) =>
    kpi.formula.inputs.map((input) =>
      askCoverage(context.coverage, context.calendar, context.dimensions, {
        name: context.accounts.accounts.get(input.account)!.name,
        leaves: context.accounts.leaves.get(input.account)!,
        scenario: side.scenario,
        months,
        scope: context.scope,
        ...(context.throughDay === undefined ? {} : { throughDay: context.throughDay }),
      }),
    );
  const bare = ask(shifted);
  const holdsByQuarter = kpi.formula.behaviour === "rate" && bare.some((answer) => answer.wholeQuarters);
  const answers = holdsByQuarter ? ask(quarters) : bare;
  const none = answers.find((answer) => answer.absence);
  if (none?.absence) return { side, answers, holdsByQuarter, months: [], absence: none.absence };
  const isCovered = (month: Month) => answers.every((answer) => answer.covered.includes(month));
  if (holdsByQuarter) {
    const held = asked.filter((month) => wholeQuarters([month - side.shift], context.calendar).every(isCovered));
    const absence =
      held.length > 0
        ? null
        : absent("no data", `${side.name} has no whole quarter around ${monthsName(context.calendar, shifted)}.`);
    return { side, answers, holdsByQuarter, months: held, absence };
  }
  const months = asked.filter((month) => isCovered(month - side.shift));
  const whole = withWholeQuarters(months, { side, answers, holdsByQuarter }, context.calendar);
  if (whole.length > 0) return { side, answers, holdsByQuarter, months: whole, absence: null };
  const absence =
    months.length > 0
      ? absent(
          "not covered",
          `${side.name} is kept by quarter: ${monthsName(context.calendar, months)} has no whole quarter.`,
        )
      : absent("not covered", `The inputs of ${kpi.definition.name} have no month in common.`);
  return { side, answers, holdsByQuarter, months: [], absence };
}

/**
 * Measures a KPI on one side over `months` (the frame's, not shifted), which the
 * side must cover: inputs are aggregated first, then the formula is applied.
 */
export function measure(
  kpi: CompiledKpi,
  coverage: SideCoverage,
  months: readonly Month[],
  context: MeasureContext,
): Measurement {
  const { side } = coverage;
  const own = months.map((month) => month - side.shift);
  const shifted = coverage.holdsByQuarter ? wholeQuarters(own, context.calendar) : own;
  const absence =
    coverage.absence ?? (months.length === 0 ? absent("not covered", `${side.name} has no month in common.`) : null);
  const inputs = kpi.formula.inputs.map(
    (input, i): Figure => absence ?? gather(input, coverage.answers[i]!, side.scenario, shifted, context),
  );
  return {
    side,
    figure: absence ?? evaluateFormula(kpi.formula, inputs),
    inputs,
    months: absence ? [] : shifted,
    coverage,
  };
}

/** The months of both, less those of quarterly facts whose quarter is not wholly in both. */
export function commonMonths(a: SideCoverage, b: SideCoverage, calendar: FiscalCalendar): Month[] {
  let months = a.months.filter((month) => b.months.includes(month));
  for (const coverage of [a, b]) months = withWholeQuarters(months, coverage, calendar);
  return months;
}

type QuarterCoverage = Pick<SideCoverage, "side" | "answers" | "holdsByQuarter">;

function withWholeQuarters(
  months: Month[],
  { side, answers, holdsByQuarter }: QuarterCoverage,
  calendar: FiscalCalendar,
): Month[] {
  if (holdsByQuarter || !answers.some((answer) => answer.wholeQuarters)) return months;
  return months.filter((month) => {
    const start = fiscalQuarterStart(calendar, month - side.shift) + side.shift;
    return [start, start + 1, start + 2].every((m) => months.includes(m));
  });
}

/** All months of the fiscal quarters that the months lie in, in calendar order. */
function wholeQuarters(months: readonly Month[], calendar: FiscalCalendar): Month[] {
  const starts = new Set(months.map((month) => fiscalQuarterStart(calendar, month)));
  return [...starts].sort((a, b) => a - b).flatMap((start) => [start, start + 1, start + 2]);
}

function gather(
  input: FormulaInput,
  answer: CoverageAnswer,
  scenario: string,
  months: readonly Month[],
  context: MeasureContext,
): Figure {
  const read = input.gathering === "closing" ? months.slice(-1) : months;
  let sum = 0;
  for (const leaf of answer.leaves) for (const month of read) sum += context.cells.amount(scenario, leaf, month);
  if (!Number.isSafeInteger(sum))
    return absent("not covered", "The sum is beyond 2^53 minor units and cannot be kept exactly.");
  return present(input.gathering === "average" ? sum / months.length : sum);
}

/** A KPI on one side in a single month. Sums kept by quarter have no figure of their own there. */
export function measureMonth(
  kpi: CompiledKpi,
  coverage: SideCoverage,
  month: Month,
  context: MeasureContext,
): Measurement {
  if (coverage.absence || (!coverage.holdsByQuarter && coverage.answers.some((answer) => answer.wholeQuarters))) {
    const absence =
      coverage.absence ?? absent("not covered", `${coverage.side.name} is kept by quarter, not by month.`);
    return measure(kpi, { ...coverage, absence }, [], context);
  }
  if (coverage.months.includes(month)) return measure(kpi, coverage, [month], context);
  return measure(kpi, coverSide(kpi, coverage.side, [month], context), [], context);
}
