import type { Month } from "../calendar/month.ts";
import { keptLeaves } from "../cube/coverage.ts";
import { absent, isPresent, type Absence } from "../figures/figure.ts";
import { evaluateDifference } from "../formula/evaluate.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Frame } from "./frame.ts";
import {
  commonMonths,
  coveredMonths,
  coverSide,
  leadingView,
  measure,
  viewsOf,
  type MeasureContext,
  type MeasureFrame,
  type Measurement,
  type SideCoverage,
  type ViewCoverage,
} from "./measure.ts";
import { ACTUAL, basisSide, type Side } from "./side.ts";
import { varianceOf, type Variance } from "./variance.ts";
import { spanWindow, windowMonths, type Window } from "./window.ts";

/** A KPI compared with one basis over the same months on both sides. */
export interface Comparison {
  /** The actual over all the months it covers. */
  readonly actual: Measurement;
  /** The actual over the months both sides cover; what Δ is taken from. */
  readonly actualInCommon: Measurement;
  /** The basis over the months both sides cover. */
  readonly basis: Measurement;
  readonly variance: Variance;
  /** The months the span asks for. */
  readonly asked: readonly Month[];
  /** Of those, the months that went into Δ. */
  readonly compared: readonly Month[];
  /** Whether the basis is the KPI's own, because the frame's does not have it. */
  readonly isFallback: boolean;
}

/** Compares a KPI's actual with the frame's basis, like for like. */
export function compareKpi(kpi: CompiledKpi, frame: Frame, context: MeasureContext): Comparison {
  const window = spanWindow(context.coverage, frame.span, frame.asOf);
  const side = basisSide({ ...frame, coverage: context.coverage, calendar: context.calendar });
  const { fallbackBasis } = kpi.definition;
  if (fallbackBasis !== null && (isAbsence(side) || !hasInputs(kpi, side.scenario, context))) {
    const own = basisSide({
      ...frame,
      basis: { kind: "scenario", scenario: fallbackBasis },
      coverage: context.coverage,
      calendar: context.calendar,
    });
    if (!isAbsence(own)) return { ...compareSides(kpi, ACTUAL, own, window, context), isFallback: true };
  }
  return { ...compareSides(kpi, ACTUAL, side, window, context), isFallback: false };
}

/** Compares two sides of a KPI over a window. A basis that is absent stays so, with its reason. */
export function compareSides(
  kpi: CompiledKpi,
  actualSide: Side,
  basisOrAbsence: Side | Absence,
  window: Window,
  context: MeasureContext,
): Omit<Comparison, "isFallback"> {
  const actual = coverSide(kpi, actualSide, window, context);
  const basis = isAbsence(basisOrAbsence)
    ? uncovered(kpi, { scenario: "", shift: 0, name: "Basis" }, window, basisOrAbsence, context)
    : alike(kpi, actual, coverSide(kpi, basisOrAbsence, window, context), context);
  const common = commonMonths(kpi, actual, basis, context.calendar);
  const inCommon = measure(kpi, actual, common, context);
  // Without a common month the basis still has its own figure to show; only Δ has no base.
  const measuredBasis = measure(
    kpi,
    basis,
    basis.views.map((view, v) => (actual.views[v]!.absence ? view.months : common[v]!)),
    context,
  );
  const delta =
    isPresent(inCommon.figure) && isPresent(measuredBasis.figure)
      ? evaluateDifference(kpi.formula, inCommon.inputs, measuredBasis.inputs)
      : noDelta(inCommon, measuredBasis);
  return {
    actual: measure(kpi, actual, coveredMonths(actual), context),
    actualInCommon: inCommon,
    basis: measuredBasis,
    variance: varianceOf(delta, measuredBasis.figure, kpi.definition),
    asked: actual.asked,
    compared: common[leadingView(kpi)]!,
  };
}

/** Whether a scenario keeps all of a KPI's inputs, whatever the months and scope. */
export function hasInputs(
  kpi: CompiledKpi,
  scenario: string,
  { accounts, coverage }: Pick<MeasureFrame, "accounts" | "coverage">,
): boolean {
  return kpi.formula.inputs.every(
    (input) =>
      input.kind !== "account" ||
      viewsOf(kpi)[input.view]!.scenario !== null ||
      keptLeaves(coverage, scenario, accounts.leaves.get(input.account)!).isWhole,
  );
}

/** The basis, or its absence where one side can tell accounts apart in the scope that the other cannot. */
function alike(kpi: CompiledKpi, actual: SideCoverage, basis: SideCoverage, context: MeasureContext): SideCoverage {
  const views = basis.views.map((view, v) => alikeView(actual.views[v]!, view, context));
  return { ...views[leadingView(kpi)]!, views };
}

function alikeView(actual: ViewCoverage, basis: ViewCoverage, context: MeasureContext): ViewCoverage {
  if (actual.absence || basis.absence) return basis;
  const unlike = actual.answers.flatMap((own, i) => {
    const other = basis.answers[i]!;
    return [
      ...own.leaves.filter((leaf) => other.leavesLeftOut.includes(leaf)),
      ...other.leaves.filter((leaf) => own.leavesLeftOut.includes(leaf)),
    ];
  });
  if (unlike.length === 0) return basis;
  const name = context.accounts.accounts.get(unlike[0]!)!.name;
  const detail = `${name} is not kept by ${actual.side.name} and ${basis.side.name} alike in this scope.`;
  return { ...basis, answers: [], holdsByQuarter: false, months: [], absence: absent("not covered", detail) };
}

function noDelta(actual: Measurement, basis: Measurement): Absence {
  if (!isPresent(basis.figure)) return absent("no base", basis.figure.detail);
  return isPresent(actual.figure) ? absent("no base", "There is nothing to compare.") : actual.figure;
}

function uncovered(
  kpi: CompiledKpi,
  side: Side,
  window: Window,
  absence: Absence,
  { calendar, scope }: MeasureContext,
): SideCoverage {
  const asked = windowMonths(calendar, window);
  const view: ViewCoverage = { side, window, asked, scope, answers: [], holdsByQuarter: false, months: [], absence };
  return { ...view, views: viewsOf(kpi).map(() => view) };
}

function isAbsence(side: Side | Absence): side is Absence {
  return "absent" in side;
}
