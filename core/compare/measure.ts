import { fiscalPeriodOf, monthsName } from "../calendar/fiscal-calendar.ts";
import { LAST_DAY } from "../calendar/days.ts";
import { daysInMonth, type Month } from "../calendar/month.ts";
import { type Dimension } from "../dimensions/dimension.ts";
import { makeOnce } from "../cube/cell-book.ts";
import type { CoverageAnswer } from "../cube/coverage.ts";
import type { Scope } from "../dimensions/scope.ts";
import { absent, present } from "../figures/figure.ts";
import { evaluateFormula, evaluateInMinorUnits, gatherFigures } from "../formula/evaluate.ts";
import type { CompiledFormula, FormulaInput } from "../formula/node.ts";
import { rememberCover } from "./cover-memo.ts";
import { coverView, wholeQuarters, type ViewCoverage } from "./cover-view.ts";
import { shapeOf } from "./formula-shape.ts";
import { linkMonths } from "./link-views.ts";
import type { MeasureContext, MeasureGround } from "./measure-ground.ts";
import type { Measurement, SideCoverage } from "./measurement.ts";
import type { Measuring } from "./measuring.ts";
import { outlookInputs } from "./outlook-inputs.ts";
import { outlookSide } from "./outlook-side.ts";
import { OUTLOOK_NAME, readSide, sidePlaces, WITH_OUTLOOK, type Side } from "./side.ts";
import { shiftBack } from "./shift-back.ts";
import { daysIn, monthWindow, wholeWindow, windowMonths, type Window } from "./window.ts";
import { withDescendants } from "../dimensions/member-tree.ts";
import type { Measured } from "./measured.ts";
import type { Absence, Figure } from "../figures/schema.ts";

/** How formulas are measured, for what measuring itself reads. */
export const MEASURING: Measuring = { coverSide, measure, measureOver };

/** Which of a window's months a side covers, view by view: like for like among the views. */
export function coverSide(kpi: Measured, asked: Side, window: Window, frame: MeasureGround): SideCoverage {
  const side =
    asked.isShown && frame.shown === WITH_OUTLOOK
      ? outlookSide(kpi, asked, window, frame, MEASURING)
      : readSide(asked, frame);
  if ("absent" in side) return uncovered(kpi, { ...asked, name: OUTLOOK_NAME }, window, side, frame);
  return rememberCover(kpi, side, window, frame, () => findCover(kpi, side, window, frame));
}

function findCover(kpi: Measured, side: Side, window: Window, frame: MeasureGround): SideCoverage {
  const { views, lead } = shapeOf(kpi.formula);
  const covered = views.map((_, v) => coverView(kpi, v, side, window, frame, nestedMonths(frame)));
  const months = linkMonths(
    covered.map((coverage, v) => ({ view: views[v]!, coverage })),
    frame.calendar,
  );
  const linked = covered.map((view, v) => (view.months === months[v] ? view : { ...view, months: months[v]! }));
  return { ...linked[lead]!, views: linked };
}

/** A formula read month by month has figures where every part of it that is needed has. */
function nestedMonths(frame: MeasureGround) {
  return (formula: CompiledFormula, months: readonly Month[], side: Side): Month[] =>
    months.filter((month) => {
      const { views } = coverSide(nested(formula), side, monthWindow(month), frame);
      return views.some((view) => !view.absence);
    });
}

/** The coverage of a side that is not there, for the same reason in every view. */
export function uncovered(
  kpi: Measured,
  side: Side,
  window: Window,
  absence: Absence,
  { scope }: MeasureGround,
): SideCoverage {
  const view: ViewCoverage = {
    side,
    window,
    asked: windowMonths(window),
    scope,
    isPlan: false,
    isClock: false,
    answers: [],
    holdsByQuarter: false,
    own: [],
    months: [],
    absence,
  };
  return { ...view, views: shapeOf(kpi.formula).views.map(() => view) };
}

/** The months that each view of a coverage goes in with. */
function coveredMonths(coverage: SideCoverage): (readonly Month[])[] {
  return coverage.views.map((view) => view.months);
}

/** What is covered of one account input; `undefined` where its view covers nothing. */
export function answerOf(kpi: Measured, { coverage }: Measurement, input: number): CoverageAnswer | undefined {
  const asked = kpi.formula.inputs[input];
  return asked && coverage.views[asked.view]?.answers[shapeOf(kpi.formula).places[input]!];
}

/**
 * Measures a formula on one side over the given months of each view (not shifted), which
 * the side must cover: inputs are aggregated first, then the formula is applied.
 */
export function measure(
  kpi: Measured,
  coverage: SideCoverage,
  months: readonly (readonly Month[])[],
  context: MeasureContext,
): Measurement {
  const { places, lead } = shapeOf(kpi.formula);
  const viewMonths = coverage.views.map((view, v) => {
    const own = shiftBack(months[v] ?? [], view.side.shift);
    return view.absence ? [] : view.holdsByQuarter ? wholeQuarters(own, context.calendar) : own;
  });
  const inputs = kpi.formula.inputs.map((input, i): Figure => {
    const view = coverage.views[input.view]!;
    const read = viewMonths[input.view]!;
    switch (input.kind) {
      case "clock":
        return clockOf(input, view, read, context);
      case "member":
        return memberOf(input, view.scope, context.dimensions);
      case "outlook":
        return view.absence ?? outlookOf(input, view, context);
      default:
        break;
    }
    if (view.absence) return view.absence;
    if (read.length === 0) return absent("not covered", `${view.side.name} has no month in common.`);
    return input.kind === "monthly"
      ? monthlyOf(input, months[input.view] ?? [], view, context)
      : gather(input, view.answers[places[i]!]!.leaves, view, read, context);
  });
  return {
    side: coverage.side,
    figure: evaluateFormula(kpi.formula, inputs),
    inputs,
    months: viewMonths[lead]!,
    viewMonths,
    coverage,
  };
}

/** A formula on a side over all the months it covers of a window. */
export function measureOver(kpi: Measured, side: Side, window: Window, context: MeasureContext): Measurement {
  return measureCovered(kpi, coverSide(kpi, side, window, context), context);
}

/** A formula over all the months that a coverage has. A coverage belongs to one formula, window and scope. */
export function measureCovered(kpi: Measured, coverage: SideCoverage, context: MeasureContext): Measurement {
  return makeOnce(context.cells, coverage, () => measure(kpi, coverage, coveredMonths(coverage), context));
}

/** The same over some of each view's months. */
export function measureOn(
  kpi: Measured,
  coverage: SideCoverage,
  months: readonly (readonly Month[])[],
  context: MeasureContext,
): Measurement {
  return coverage.views.every((view, v) => view.months.length === months[v]!.length)
    ? measureCovered(kpi, coverage, context)
    : measure(kpi, coverage, months, context);
}

/** A formula over a window that must be covered whole. */
export function measureWhole(
  kpi: Measured,
  side: Side,
  window: Window,
  context: MeasureContext,
): Measurement | Absence {
  const coverage = coverSide(kpi, side, window, context);
  return notWhole(coverage, context) ?? measureCovered(kpi, coverage, context);
}

/** Why a coverage has not all of the months it was asked for; `null` where it has. */
export function notWhole(coverage: SideCoverage, { calendar }: MeasureGround): Absence | null {
  if (coverage.absence) return coverage.absence;
  const open = coverage.asked.filter((month) => !coverage.months.includes(month));
  if (open.length === 0) return null;
  const shifted = open.map((month) => month - coverage.side.shift);
  return absent(
    "not covered",
    `${coverage.side.name} has nothing for ${monthsName(calendar, shifted)}: the year is not whole.`,
  );
}

/** Whether there is a measurement and not an absence. */
export function isMeasured(found: Measurement | Absence): found is Measurement {
  return "inputs" in found;
}

/** A KPI on one side in a single month. Sums kept by quarter have no figure of their own there. */
export function measureMonth(kpi: Measured, side: Side, month: Month, context: MeasureContext): Measurement {
  return measureOver(kpi, side, monthWindow(month), context);
}

/** Whole counts all months of the window's span to its end; elapsed those that went in, the last one to the day that counts. */
function clockOf(
  { count, unit }: Extract<FormulaInput, { kind: "clock" }>,
  view: ViewCoverage,
  read: readonly Month[],
  { calendar }: MeasureGround,
): Figure {
  if (count === "year-elapsed" || count === "year-left") {
    const elapsed = fiscalPeriodOf(calendar, view.window.asOf - view.side.shift);
    return present(count === "year-elapsed" ? elapsed : 12 - elapsed);
  }
  const whole = () => windowMonths(wholeWindow({ calendar }, view.window.span, view.window.asOf));
  const months = count === "whole" ? whole().map((month) => month - view.side.shift) : read;
  if (months.length === 0) return view.absence ?? absent("not covered", "No month has figures.");
  if (unit === "month") return present(months.length);
  const counted = (month: Month): number => {
    const { from = 1, to = LAST_DAY } = daysIn(view.window, month + view.side.shift) ?? {};
    return Math.max(0, Math.min(daysInMonth(month), to) - from + 1);
  };
  return present(months.reduce((sum, month) => sum + counted(month), 0));
}

/** A scope is narrowed to a member when it holds what lies below that member, and no more. */
function memberOf(
  { dimension: key, members }: Extract<FormulaInput, { kind: "member" }>,
  scope: Scope,
  dimensions: readonly Dimension[],
): Figure {
  const dimension = dimensions.find((d) => d.key === key);
  const chosen = scope[key];
  if (dimension && chosen) {
    const inside = withDescendants(dimension, chosen).join();
    const place = members.findIndex((member) => withDescendants(dimension, [member]).join() === inside);
    if (place >= 0) return present(place);
  }
  return absent("not covered", "A rank belongs to one member: narrow to one, or read it row by row.");
}

/** A formula within a formula, as it is measured. */
function nested(formula: CompiledFormula): Measured {
  return { definition: { name: "the formula" }, formula };
}

/** A nested formula's figure in each of the months, made one. */
function monthlyOf(
  { formula, how }: Extract<FormulaInput, { kind: "monthly" }>,
  months: readonly Month[],
  { side }: ViewCoverage,
  context: MeasureContext,
): Figure {
  const figures = months.map((month) =>
    evaluateInMinorUnits(formula, measureOver(nested(formula), side, monthWindow(month), context).inputs),
  );
  return gatherFigures(how, figures);
}

/** A nested formula over the year of the view's as-of month. */
function outlookOf(
  { formula, from }: Extract<FormulaInput, { kind: "outlook" }>,
  { side, window }: ViewCoverage,
  context: MeasureContext,
): Figure {
  const found = outlookInputs(nested(formula), { side, asOf: window.asOf, from }, context, MEASURING);
  return "absent" in found ? found : (found.whole ?? evaluateInMinorUnits(formula, found.inputs));
}

/** What some of the leaf accounts bring to an account input of a measurement, on the months and in the scope of that one. */
export function amountOf(
  kpi: Measured,
  { coverage, viewMonths }: Measurement,
  input: number,
  leaves: readonly string[],
  context: MeasureContext,
): Figure {
  const asked = kpi.formula.inputs[input];
  if (asked?.kind !== "account") return absent("not covered", "It is no account's amount.");
  const view = coverage.views[asked.view]!;
  if (view.absence) return view.absence;
  return gather(asked, leaves, view, viewMonths[asked.view]!, context);
}

function gather(
  input: Extract<FormulaInput, { kind: "account" }>,
  leaves: readonly string[],
  { scope, window, side }: ViewCoverage,
  months: readonly Month[],
  { cells }: MeasureContext,
): Figure {
  const gathered = input.gathering === "closing" ? months.slice(-1) : months;
  const isByDay = daysIn(window, window.from) !== undefined;
  let sum = 0;
  for (const { scenario, months: own } of sidePlaces(side, gathered)) {
    if (isByDay)
      for (const month of own)
        sum += cells.sum({
          scope,
          accounts: leaves,
          scenario,
          months: [month],
          days: daysIn(window, month + side.shift),
        });
    else sum += cells.sum({ scope, accounts: leaves, scenario, months: own, days: undefined });
  }
  if (!Number.isSafeInteger(sum))
    return absent("not covered", "The sum is beyond 2^53 minor units and cannot be kept exactly.");
  const open = side.then?.open;
  if (open && !isByDay && input.gathering === "sum" && gathered.includes(open.month)) {
    const { scenario } = side.then;
    const month = { scope, accounts: leaves, months: [open.month] };
    const planned = cells.sum({ ...month, scenario, days: undefined });
    const actual = cells.sum({ ...month, scenario: side.scenario, days: { from: 1, to: open.days } });
    return present(sum - planned * open.share + actual);
  }
  return present(input.gathering === "average" ? sum / months.length : sum);
}
