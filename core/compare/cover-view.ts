import { fiscalQuarterStart, monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import type { CoverageAnswer } from "../cube/coverage.ts";
import { isAlive } from "../dimensions/life.ts";
import type { Scope } from "../dimensions/scope.ts";
import { stepScope } from "../dimensions/step-scope.ts";
import { absent } from "../figures/figure.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { keptOf } from "../collections/kept-of.ts";
import type { View } from "../formula/view.ts";
import { askSide } from "./ask-side.ts";
import { forecastWith } from "./forecast-with.ts";
import { shapeOf } from "./formula-shape.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { notInLife } from "./not-in-life.ts";
import type { Side } from "./side.ts";
import { shiftBack } from "./shift-back.ts";
import { daysIn, stepWindow, windowMonths, type Window } from "./window.ts";
import type { Measured } from "./measured.ts";
import type { Absence } from "../figures/schema.ts";

/** What one view of a formula covers on one side. */
export interface ViewCoverage {
  /** The scenario that is read, and how many months before the window's. */
  readonly side: Side;
  readonly window: Window;
  /** The window's months, not shifted. */
  readonly asked: readonly Month[];
  readonly scope: Scope;
  /** Whether it is a plan that the formula names: its spans go to their end, past the as-of month. */
  readonly isPlan: boolean;
  /** Whether only how far the year has come is asked: of the calendar, in no months. */
  readonly isClock: boolean;
  /** One for each account input of the view, in the formula's order. */
  readonly answers: readonly CoverageAnswer[];
  /**
   * A rate kept by quarter holds in each of its quarter's months: over a span it is
   * the rate of the quarters the span touches. A sum kept by quarter has no such parts.
   */
  readonly holdsByQuarter: boolean;
  /** The window's months (not shifted) on which every input of this view alone has figures. */
  readonly own: readonly Month[];
  /** Of those, the ones that go in: what other parts of the formula cover too. */
  readonly months: readonly Month[];
  readonly absence: Absence | null;
}

/** In which of a view's asked months a formula nested in it has figures, read month by month. */
export type CoverNested = (formula: CompiledFormula, months: readonly Month[], side: Side) => readonly Month[];

/** A view as it stands on a side: which scenario, window and scope it reads. */
interface PlacedView {
  readonly side: Side | Absence;
  readonly window: Window;
  readonly isWhole: boolean;
  readonly isPlan: boolean;
  readonly scope: Scope;
}

function placeView(measured: Measured, v: number, side: Side, window: Window, frame: MeasureGround): PlacedView {
  const view = shapeOf(measured.formula).views[v]!;
  const placed = viewSide(measured, v, side, Math.min(window.asOf, frame.knownTo ?? Infinity), frame);
  // Of a plan that is named, the months to come are known; of the side that is compared, only as far as the actual.
  const isPlan =
    view.scenario !== null && !("absent" in placed) && frame.coverage.scenarios.get(placed.scenario)?.kind !== "actual";
  return {
    ...stepWindow(window, view.time, { calendar: frame.calendar, coverage: frame.coverage, isPlan }),
    side: placed,
    isPlan,
    scope: view.scope.length === 0 ? frame.scope : stepScope(frame.dimensions, frame.scope, view.scope, frame.access),
  };
}

function viewSide(measured: Measured, v: number, side: Side, asOf: Month, frame: MeasureGround): Side | Absence {
  const { scenario } = shapeOf(measured.formula).views[v]!;
  if (scenario === null) return side;
  if (scenario !== "forecast")
    return { scenario, shift: side.shift, name: frame.coverage.scenarios.get(scenario)?.name ?? scenario };
  const latest = forecastWith(measured, asOf, frame, v);
  return latest
    ? { scenario: latest.key, shift: side.shift, name: latest.name }
    : absent("not covered", "No forecast had been made by then.");
}

/** Which of a window's months one view of a formula covers on a side, for all its inputs at once. */
export function coverView(
  measured: Measured,
  v: number,
  frameSide: Side,
  frameWindow: Window,
  frame: MeasureGround,
  coverNested: CoverNested,
): ViewCoverage {
  const { views, mayHold, isClock } = shapeOf(measured.formula);
  const placed = placeView(measured, v, frameSide, frameWindow, frame);
  const asked = windowMonths(placed.window);
  const side = "absent" in placed.side ? frameSide : placed.side;
  const found: ViewCoverage = {
    side,
    window: placed.window,
    asked,
    scope: placed.scope,
    isPlan: placed.isPlan,
    isClock: isClock[v]!,
    answers: [],
    holdsByQuarter: false,
    own: [],
    months: [],
    absence: null,
  };
  const absence =
    frame.scopeAbsence ??
    ("absent" in placed.side ? placed.side : null) ??
    emptyScope(placed.scope, frame) ??
    notAlive(views[v]!, side, asked, frame);
  if (absence) return { ...found, absence };
  const answered = answerInputs(measured, v, found, frame, mayHold[v]!);
  const missing = answered.answers.find((answer) => answer.absence);
  if (missing?.absence) return { ...answered, absence: missing.absence };
  const nested = measured.formula.inputs.flatMap((i) =>
    i.view === v && i.kind === "monthly" ? [coverNested(i.formula, asked, side)] : [],
  );
  const { own, why } = ownMonths(measured, answered, nested, frame);
  if (own.length === 0) return { ...answered, absence: why };
  // A year with its outlook is a year: what lacks a month is none.
  const isYear = side.then !== undefined && placed.window.span.kind === "full-year";
  if ((placed.isWhole || isYear) && own.length < asked.length)
    return { ...answered, absence: notWhole(answered, own, frame) };
  return { ...answered, own, months: own };
}

function emptyScope(scope: Scope, { dimensions }: MeasureGround): Absence | null {
  const empty = dimensions.find((d) => scope[d.key]?.length === 0);
  return empty ? absent("not covered", `What the formula names of the ${empty.plural} is outside the scope.`) : null;
}

/**
 * Members that are looked at one by one are absent, rather than 0, while they do not exist: those that a formula names,
 * and those that the figure is of. What was planned for one stands, whatever became of it.
 */
function notAlive(
  { scope }: View,
  { scenario, shift }: Side,
  asked: readonly Month[],
  { dimensions, calendar, coverage, living = {} }: MeasureGround,
): Absence | null {
  const months = shiftBack(asked, shift);
  const named = scope.flatMap((step) => (step.do === "only" ? [[step.dimension, step.members] as const] : []));
  const isIgnored = (key: string) => scope.some((step) => step.do === "ignore" && step.dimension === key);
  const own =
    coverage.scenarios.get(scenario)?.kind === "actual"
      ? Object.entries(living).filter(([key]) => !isIgnored(key))
      : [];
  for (const [key, members] of [...named, ...own]) {
    const dimension = dimensions.find((d) => d.key === key);
    if (!dimension || isAlive(dimension, members, months)) continue;
    const names = members.map((member) => dimension.members.find((m) => m.key === member)?.name ?? member);
    return notInLife(names, calendar, months);
  }
  return null;
}

/** Asks coverage of the view's accounts: month by month, or by whole quarters where a rate is kept so. */
function answerInputs(
  { formula }: Measured,
  v: number,
  found: ViewCoverage,
  frame: MeasureGround,
  mayHold: boolean,
): ViewCoverage {
  const { side, asked, scope, window } = found;
  const { throughDay: _, days: __, ...wholeDays } = window;
  const inputs = formula.inputs.flatMap((i) => (i.kind === "account" && i.view === v ? [i] : []));
  const isByDay = daysIn(window, window.from) !== undefined;
  const ask = (months: readonly Month[], byDay: boolean) =>
    inputs.map((input) =>
      askSide(side, frame, {
        name: frame.accounts.accounts.get(input.account)!.name,
        leaves: frame.accounts.leaves.get(input.account)!,
        months,
        scope,
        ...(frame.knownTo === undefined ? {} : { knownTo: frame.knownTo }),
        ...(byDay ? { daysIn: (month: Month) => daysIn(window, month + side.shift)! } : {}),
      }),
    );
  const shifted = shiftBack(asked, side.shift);
  const answers = ask(shifted, isByDay);
  if (!mayHold || !answers.some((answer) => answer.wholeQuarters)) return { ...found, answers };
  // What a quarter holds says nothing of days: it stands in each month to any day.
  return {
    ...found,
    answers: ask(wholeQuarters(shifted, frame.calendar), false),
    holdsByQuarter: true,
    window: wholeDays,
  };
}

/** The months on which all inputs have figures, or why there are none. */
function ownMonths(
  { definition: { name } }: Measured,
  { side, asked, answers, holdsByQuarter, window }: ViewCoverage,
  nested: readonly (readonly Month[])[],
  { calendar }: MeasureGround,
): { own: readonly Month[]; why: Absence | null } {
  const isCovered = (month: Month) => answers.every((answer) => answer.covered.includes(month));
  if (holdsByQuarter) {
    const own = asked.filter((month) => wholeQuarters([month - side.shift], calendar).every(isCovered));
    const why = absent(
      "no data",
      `${side.name} has no whole quarter around ${monthsName(calendar, shiftBack(asked, side.shift))}.`,
    );
    return { own, why };
  }
  const months = keptOf(
    asked,
    (month) => isCovered(month - side.shift) && nested.every((covered) => covered.includes(month)),
  );
  const own = withWholeQuarters(months, { side, answers, holdsByQuarter }, calendar);
  if (months.length === 0) return { own, why: absent("not covered", `The inputs of ${name} have no month in common.`) };
  const isSingle = window.from === window.to;
  const why = isSingle
    ? `${side.name} is kept by quarter, not by month.`
    : `${side.name} is kept by quarter: ${monthsName(calendar, months)} has no whole quarter.`;
  return { own, why: absent("not covered", why) };
}

function notWhole({ side, asked }: ViewCoverage, own: readonly Month[], { calendar }: MeasureGround): Absence {
  const shifted = (months: readonly Month[]) => monthsName(calendar, shiftBack(months, side.shift));
  return absent("not covered", `All of ${shifted(asked)} are needed, and ${side.name} has ${shifted(own)}.`);
}

type QuarterCoverage = Pick<ViewCoverage, "side" | "answers" | "holdsByQuarter">;

/** Months less those of a sum kept by quarter whose quarter is not wholly among them. */
export function withWholeQuarters(
  months: readonly Month[],
  { side, answers, holdsByQuarter }: QuarterCoverage,
  calendar: FiscalCalendar,
): readonly Month[] {
  if (holdsByQuarter || !answers.some((answer) => answer.wholeQuarters)) return months;
  return months.filter((month) => {
    const start = fiscalQuarterStart(calendar, month - side.shift) + side.shift;
    return [start, start + 1, start + 2].every((m) => months.includes(m));
  });
}

/** All months of the fiscal quarters that the months lie in, in calendar order. */
export function wholeQuarters(months: readonly Month[], calendar: FiscalCalendar): Month[] {
  const starts = new Set(months.map((month) => fiscalQuarterStart(calendar, month)));
  return [...starts].sort((a, b) => a - b).flatMap((start) => [start, start + 1, start + 2]);
}
