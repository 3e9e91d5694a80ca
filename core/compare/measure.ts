import type { AccountTree } from "../accounts/account-tree.ts";
import { fiscalQuarterStart, monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { daysInMonth, type Month } from "../calendar/month.ts";
import type { CellBook } from "../cube/cell-book.ts";
import { askCoverage, type CoverageAnswer, type CoverageMap } from "../cube/coverage.ts";
import { withDescendants, type Dimension } from "../dimensions/dimension.ts";
import type { Scope } from "../dimensions/scope.ts";
import { stepScope } from "../dimensions/step-scope.ts";
import { absent, present, type Absence, type Figure } from "../figures/figure.ts";
import { evaluateFormula } from "../formula/evaluate.ts";
import type { CompiledFormula, FormulaInput } from "../formula/node.ts";
import { isPlain, PLAIN_VIEW, type View } from "../formula/view.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { latestForecast, type Side } from "./side.ts";
import { monthWindow, stepWindow, windowMonths, type Window } from "./window.ts";

/** All that measuring needs besides the KPI and the cells: structure, coverage and scope. */
export interface MeasureFrame {
  readonly accounts: AccountTree;
  readonly calendar: FiscalCalendar;
  readonly dimensions: readonly Dimension[];
  readonly coverage: CoverageMap;
  /** Inside the reader's access. */
  readonly scope: Scope;
  /** What the reader may see at all: formulas that widen the scope stay inside it. */
  readonly access: Scope;
  /** Why the scope lets nothing through (empty, or outside what the person may see). */
  readonly scopeAbsence?: Absence;
}

/** The same, with the cells that were read. */
export interface MeasureContext extends MeasureFrame {
  readonly cells: CellBook;
}

/** What one view of a formula covers on one side. */
export interface ViewCoverage {
  /** The scenario that is read, and how many months before the window's. */
  readonly side: Side;
  readonly window: Window;
  /** The window's months, not shifted. */
  readonly asked: readonly Month[];
  readonly scope: Scope;
  /** One for each account input of the view, in the formula's order. */
  readonly answers: readonly CoverageAnswer[];
  /**
   * A rate kept by quarter holds in each of its quarter's months: over a span it is
   * the rate of the quarters the span touches. A sum kept by quarter has no such parts.
   */
  readonly holdsByQuarter: boolean;
  /** The window's months (not shifted) on which every input has figures. */
  readonly months: readonly Month[];
  readonly absence: Absence | null;
}

/** A KPI as one side covers it: its leading view, and all of them in the formula's order. */
export interface SideCoverage extends ViewCoverage {
  readonly views: readonly ViewCoverage[];
}

/** A KPI on one side: its figure, the inputs it was made of, and the months that went in. */
export interface Measurement {
  readonly side: Side;
  readonly figure: Figure;
  /** Aggregated inputs in whole minor units of their accounts, in the formula's order. */
  readonly inputs: readonly Figure[];
  /** The months that went in by the leading view, as this side reads them. */
  readonly months: readonly Month[];
  /** The same for each view. */
  readonly viewMonths: readonly (readonly Month[])[];
  readonly coverage: SideCoverage;
}

/** The views of a KPI's formula; one that reads no facts looks at the frame as it is. */
export function viewsOf(kpi: CompiledKpi): readonly View[] {
  return kpi.formula.views.length > 0 ? kpi.formula.views : [PLAIN_VIEW];
}

/** A view as it stands on a side: which scenario, window and scope it reads. */
export function placeView(
  view: View,
  side: Side,
  window: Window,
  frame: MeasureFrame,
): { side: Side | Absence; window: Window; isWhole: boolean; scope: Scope } {
  return {
    ...stepWindow(window, view.time, frame),
    side: viewSide(view, side, window.asOf, frame.coverage),
    scope: view.scope.length === 0 ? frame.scope : stepScope(frame.dimensions, frame.scope, view.scope, frame.access),
  };
}

function viewSide({ scenario }: View, side: Side, asOf: Month, coverage: CoverageMap): Side | Absence {
  if (scenario === null) return side;
  if (scenario !== "forecast")
    return { scenario, shift: side.shift, name: coverage.scenarios.get(scenario)?.name ?? scenario };
  const latest = latestForecast(coverage, asOf);
  return latest
    ? { scenario: latest.key, shift: side.shift, name: latest.name }
    : absent("not covered", "No forecast had been made by then.");
}

/** Which of a window's months a side covers, view by view, for all inputs of each view at once. */
export function coverSide(kpi: CompiledKpi, side: Side, window: Window, frame: MeasureFrame): SideCoverage {
  const views = linkViews(
    kpi,
    viewsOf(kpi).map((_, v) => coverView(kpi, v, side, window, frame)),
  );
  return { ...views[leadingView(kpi)]!, views };
}

/** What follows from a formula alone. */
interface FormulaShape {
  readonly lead: number;
  /** Where each account input's answer stands among those of its view. */
  readonly places: readonly number[];
  readonly isLinked: boolean;
}
const shapes = new WeakMap<CompiledFormula, FormulaShape>();

function shapeOf({ formula }: CompiledKpi): FormulaShape {
  const known = shapes.get(formula);
  if (known) return known;
  const readsFacts = (v: number) => formula.inputs.some((i) => i.kind === "account" && i.view === v);
  const plain = formula.views.findIndex((view, v) => isPlain(view) && readsFacts(v));
  const first = formula.views.findIndex((_, v) => readsFacts(v));
  const seen = new Map<number, number>();
  const shape: FormulaShape = {
    lead: Math.max(0, plain >= 0 ? plain : first),
    places: formula.inputs.map((input) => {
      if (input.kind !== "account") return -1;
      const place = seen.get(input.view) ?? 0;
      seen.set(input.view, place + 1);
      return place;
    }),
    isLinked: formula.views.some((view) => view.link !== null),
  };
  shapes.set(formula, shape);
  return shape;
}

/** The view whose months speak for the KPI: the plain one, or the first. */
export function leadingView(kpi: CompiledKpi): number {
  return shapeOf(kpi).lead;
}

function coverView(
  kpi: CompiledKpi,
  v: number,
  frameSide: Side,
  frameWindow: Window,
  frame: MeasureFrame,
): ViewCoverage {
  const placed = placeView(viewsOf(kpi)[v]!, frameSide, frameWindow, frame);
  const { window, scope } = placed;
  const asked = windowMonths(frame.calendar, window);
  const side = "absent" in placed.side ? frameSide : placed.side;
  const none = (absence: Absence, answers: readonly CoverageAnswer[] = []): ViewCoverage => ({
    side,
    window,
    asked,
    scope,
    answers,
    holdsByQuarter: false,
    months: [],
    absence,
  });
  if (frame.scopeAbsence) return none(frame.scopeAbsence);
  if ("absent" in placed.side) return none(placed.side);
  const empty = frame.dimensions.find((d) => scope[d.key]?.length === 0);
  if (empty)
    return none(absent("not covered", `What the formula names of the ${empty.plural} lies outside what is looked at.`));

  const inputs = kpi.formula.inputs.flatMap((i) => (i.kind === "account" && i.view === v ? [i] : []));
  const shifted = asked.map((month) => month - side.shift);
  const quarters = wholeQuarters(shifted, frame.calendar);
  const ask = (months: readonly Month[]) =>
    inputs.map((input) =>
      askCoverage(frame.coverage, frame.calendar, frame.dimensions, {
        name: frame.accounts.accounts.get(input.account)!.name,
        leaves: frame.accounts.leaves.get(input.account)!,
        scenario: side.scenario,
        months,
        scope,
        ...(window.throughDay === undefined ? {} : { throughDay: window.throughDay }),
      }),
    );
  const bare = ask(shifted);
  const holdsByQuarter = kpi.formula.behaviour === "rate" && bare.some((answer) => answer.wholeQuarters);
  const answers = holdsByQuarter ? ask(quarters) : bare;
  const cover = (months: readonly Month[], absence: Absence | null): ViewCoverage => ({
    side,
    window,
    asked,
    scope,
    answers,
    holdsByQuarter,
    months,
    absence,
  });
  const missing = answers.find((answer) => answer.absence);
  if (missing?.absence) return cover([], missing.absence);
  const isCovered = (month: Month) => answers.every((answer) => answer.covered.includes(month));
  if (holdsByQuarter) {
    const held = asked.filter((month) => wholeQuarters([month - side.shift], frame.calendar).every(isCovered));
    const absence =
      held.length > 0
        ? null
        : absent("no data", `${side.name} has no whole quarter around ${monthsName(frame.calendar, shifted)}.`);
    return cover(held, absence);
  }
  const months = asked.filter((month) => isCovered(month - side.shift));
  const whole = withWholeQuarters(months, { side, answers, holdsByQuarter }, frame.calendar);
  if (whole.length > 0 && (!placed.isWhole || whole.length === asked.length)) return cover(whole, null);
  if (whole.length > 0)
    return cover(
      [],
      absent(
        "not covered",
        `All of ${monthsName(frame.calendar, shifted)} are needed, and ${side.name} has ${monthsName(
          frame.calendar,
          whole.map((month) => month - side.shift),
        )}.`,
      ),
    );
  return cover(
    [],
    months.length > 0
      ? absent(
          "not covered",
          `${side.name} is kept by quarter: ${monthsName(frame.calendar, months)} has no whole quarter.`,
        )
      : absent("not covered", `The inputs of ${kpi.definition.name} have no month in common.`),
  );
}

/** Views of one link are measured on the months, counted from their windows' starts, that all of them cover. */
function linkViews(kpi: CompiledKpi, views: readonly ViewCoverage[]): ViewCoverage[] {
  const months = linkMonths(
    kpi,
    views.map((view) => view.months),
    views,
  );
  return views.map((view, v) => ({ ...view, months: months[v]! }));
}

function linkMonths(
  kpi: CompiledKpi,
  months: readonly (readonly Month[])[],
  views: readonly ViewCoverage[],
): (readonly Month[])[] {
  if (!shapeOf(kpi).isLinked) return [...months];
  const linked = viewsOf(kpi).map((view) => view.link);
  return months.map((own, v) => {
    const link = linked[v];
    if (link === null) return own;
    const others = views.flatMap((view, o) =>
      linked[o] === link && view.asked.length === views[v]!.asked.length && !view.absence ? [o] : [],
    );
    const start = views[v]!.asked[0]!;
    return own.filter((month) => others.every((o) => months[o]!.includes(month - start + views[o]!.asked[0]!)));
  });
}

/** What is covered of one account input; `undefined` where its view covers nothing. */
export function answerOf(kpi: CompiledKpi, { coverage }: Measurement, input: number): CoverageAnswer | undefined {
  const asked = kpi.formula.inputs[input];
  return asked && coverage.views[asked.view]?.answers[shapeOf(kpi).places[input]!];
}

/** The months that each view of a coverage has. */
export function coveredMonths(coverage: SideCoverage): (readonly Month[])[] {
  return coverage.views.map((view) => view.months);
}

/**
 * Measures a KPI on one side over the given months of each view (not shifted), which
 * the side must cover: inputs are aggregated first, then the formula is applied.
 */
export function measure(
  kpi: CompiledKpi,
  coverage: SideCoverage,
  months: readonly (readonly Month[])[],
  context: MeasureContext,
): Measurement {
  const { places } = shapeOf(kpi);
  const viewMonths = coverage.views.map((view, v) => {
    const own = (months[v] ?? []).map((month) => month - view.side.shift);
    return view.absence ? [] : view.holdsByQuarter ? wholeQuarters(own, context.calendar) : own;
  });
  const inputs = kpi.formula.inputs.map((input, i): Figure => {
    const view = coverage.views[input.view]!;
    const read = viewMonths[input.view]!;
    if (input.kind === "clock") return clockOf(input, view, read);
    if (input.kind === "member") return memberOf(input, view.scope, context.dimensions);
    if (view.absence) return view.absence;
    if (read.length === 0) return absent("not covered", `${view.side.name} has no month in common.`);
    return gather(input, view.answers[places[i]!]!, view, read, context);
  });
  const lead = leadingView(kpi);
  return {
    side: coverage.side,
    figure: evaluateFormula(kpi.formula, inputs),
    inputs,
    months: viewMonths[lead]!,
    viewMonths,
    coverage,
  };
}

/** The months that both sides cover, view by view, less those of quarterly facts whose quarter is not wholly in both. */
export function commonMonths(kpi: CompiledKpi, a: SideCoverage, b: SideCoverage, calendar: FiscalCalendar): Month[][] {
  const common = a.views.map((own, v) => {
    const other = b.views[v]!;
    if (own.absence || other.absence) return [];
    let months = own.months.filter((month) => other.months.includes(month));
    for (const coverage of [own, other]) months = withWholeQuarters(months, coverage, calendar);
    return months;
  });
  return linkMonths(kpi, common, a.views).map((months) => [...months]);
}

type QuarterCoverage = Pick<ViewCoverage, "side" | "answers" | "holdsByQuarter">;

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

/** Whole counts all months of the window; elapsed those that went in, the last one to the day that counts. */
function clockOf(
  { count, unit }: Extract<FormulaInput, { kind: "clock" }>,
  view: ViewCoverage,
  read: readonly Month[],
): Figure {
  const months = count === "whole" ? view.asked.map((month) => month - view.side.shift) : read;
  if (months.length === 0) return view.absence ?? absent("not covered", "No month has figures.");
  if (unit === "month") return present(months.length);
  const { throughDay } = view.window;
  return present(months.reduce((sum, month) => sum + Math.min(daysInMonth(month), throughDay ?? 31), 0));
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

function gather(
  input: Extract<FormulaInput, { kind: "account" }>,
  answer: CoverageAnswer,
  view: ViewCoverage,
  months: readonly Month[],
  context: MeasureContext,
): Figure {
  const read = input.gathering === "closing" ? months.slice(-1) : months;
  const table = context.cells.table(view.scope, view.window.throughDay);
  let sum = 0;
  for (const leaf of answer.leaves) for (const month of read) sum += table.amount(view.side.scenario, leaf, month);
  if (!Number.isSafeInteger(sum))
    return absent("not covered", "The sum is beyond 2^53 minor units and cannot be kept exactly.");
  return present(input.gathering === "average" ? sum / months.length : sum);
}

/** A KPI on one side in a single month. Sums kept by quarter have no figure of their own there. */
export function measureMonth(kpi: CompiledKpi, side: Side, month: Month, context: MeasureContext): Measurement {
  const coverage = coverSide(kpi, side, monthWindow(month), context);
  if (!coverage.absence || coverage.holdsByQuarter || !coverage.answers.some((answer) => answer.wholeQuarters))
    return measure(kpi, coverage, coveredMonths(coverage), context);
  const absence = absent("not covered", `${coverage.side.name} is kept by quarter, not by month.`);
  const views = coverage.views.map((view) => (view.absence ? { ...view, absence } : view));
  return measure(kpi, { ...coverage, absence, views }, coveredMonths(coverage), context);
}
