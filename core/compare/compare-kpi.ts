import type { Month } from "../calendar/month.ts";
import { makeOnce } from "../cube/cell-book.ts";
import { absent, isPresent } from "../figures/figure.ts";
import { evaluateDifference } from "../formula/evaluate.ts";
import { getOrCreate } from "../collections/keyed.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { RecentMap } from "../collections/recent-map.ts";
import { basisOf } from "./basis-of.ts";
import { unlikeLeaf } from "./ask-side.ts";
import type { ViewCoverage } from "./cover-view.ts";
import { shapeOf } from "./formula-shape.ts";
import type { Frame } from "./frame.ts";
import { linkMonths } from "./link-views.ts";
import { coverSide, measureCovered, measureOn, uncovered } from "./measure.ts";
import type { MeasureContext } from "./measure-ground.ts";
import type { Measurement, SideCoverage } from "./measurement.ts";
import { ACTUAL, SHOWN, type Side } from "./side.ts";
import { varianceOf } from "./variance.ts";
import { spanWindow, type Window } from "./window.ts";
import type { Absence, Variance } from "../figures/schema.ts";

/** A KPI on two sides over the same months. */
export interface SidesCompared {
  /** The actual over all the months it covers. */
  readonly actual: Measurement;
  /** The actual over the months both sides cover; what Δ and attainment are taken from. */
  readonly actualInCommon: Measurement;
  /** The basis over the months both sides cover. */
  readonly basis: Measurement;
  readonly variance: Variance;
  /** The months the span asks for. */
  readonly asked: readonly Month[];
  /** Of those, the months that went into Δ. */
  readonly compared: readonly Month[];
}

/** A KPI compared with its frame's basis. */
export interface Comparison extends SidesCompared {
  /** Whether the basis is the KPI's own, because the frame's does not have it. */
  readonly isFallback: boolean;
}

/** Compares a KPI's actual with the frame's basis, like for like. */
export function compareKpi(kpi: CompiledKpi, frame: Frame, context: MeasureContext): Comparison {
  const window = spanWindow(context, frame.span, frame.asOf);
  const { side, isFallback } = basisOf(kpi, frame, context);
  return { ...compareSides(kpi, SHOWN, side, window, context), isFallback };
}

/** Compares two sides of a KPI over a window. A basis that is absent stays so, with its reason. */
export function compareSides(
  kpi: CompiledKpi,
  actualSide: Side,
  basisOrAbsence: Side | Absence,
  window: Window,
  context: MeasureContext,
): SidesCompared {
  const actual = coverSide(kpi, actualSide, window, context);
  if ("absent" in basisOrAbsence) {
    const none = { ...ACTUAL, scenario: "", name: "Basis" };
    return compareCovered(kpi, actual, uncovered(kpi, none, window, basisOrAbsence, context), context);
  }
  const basis = coverSide(kpi, basisOrAbsence, window, context);
  return compareOnce(kpi, actual, basis, context, () =>
    compareCovered(kpi, actual, alike(kpi, actual, basis, context), context),
  );
}

/** So many comparisons are kept of a state of the data. */
const ENOUGH = 6000;

interface KeptComparisons {
  readonly numbers: WeakMap<SideCoverage, number>;
  readonly known: RecentMap<string, { readonly kpi: CompiledKpi; readonly compared: SidesCompared }>;
  numbered: number;
}

/** What is kept of comparisons stands under this name among what a book's cells gave. */
const COMPARISONS = {};

/** A comparison of what two sides cover is made once for a state of the data: the months of a chart stand in many frames. */
function compareOnce(
  kpi: CompiledKpi,
  actual: SideCoverage,
  basis: SideCoverage,
  { cells }: MeasureContext,
  compare: () => SidesCompared,
): SidesCompared {
  if (!cells.made) return compare();
  const kept = makeOnce(cells, COMPARISONS, (): KeptComparisons => ({
    numbers: new WeakMap(),
    known: new RecentMap(ENOUGH),
    numbered: 0,
  }));
  const numberOf = (coverage: SideCoverage) => getOrCreate(kept.numbers, coverage, () => (kept.numbered += 1));
  const place = `${numberOf(actual)}|${numberOf(basis)}`;
  const known = kept.known.get(place);
  if (known?.kpi.definition === kpi.definition && known.kpi.formula === kpi.formula) return known.compared;
  const compared = compare();
  kept.known.set(place, { kpi, compared });
  return compared;
}

function compareCovered(
  kpi: CompiledKpi,
  actual: SideCoverage,
  basis: SideCoverage,
  context: MeasureContext,
): SidesCompared {
  const { lead } = shapeOf(kpi.formula);
  const common = commonMonths(kpi, actual, basis, context);
  const inCommon = measureOn(kpi, actual, common.actual, context);
  // Without an actual the basis still has its own figure to show; only Δ has no base.
  const measuredBasis = measureOn(kpi, basis, common.basis, context);
  const delta =
    isPresent(inCommon.figure) && isPresent(measuredBasis.figure)
      ? evaluateDifference(kpi.formula, inCommon.inputs, measuredBasis.inputs)
      : noDelta(inCommon, measuredBasis);
  const isCompared = !actual.views[lead]!.absence && !basis.views[lead]!.absence;
  return {
    actual: measureCovered(kpi, actual, context),
    actualInCommon: inCommon,
    basis: measuredBasis,
    variance: varianceOf(delta, measuredBasis.figure, kpi.definition),
    asked: actual.asked,
    compared: isCompared ? common.actual[lead]! : [],
  };
}

/**
 * The months that go in on both sides: all views of both are measured on the same of their windows' months.
 * A view that only one side has keeps its own, as members do that came or went between the two.
 */
function commonMonths(
  { formula }: CompiledKpi,
  actual: SideCoverage,
  basis: SideCoverage,
  { calendar }: MeasureContext,
): { actual: (readonly Month[])[]; basis: (readonly Month[])[] } {
  const { views } = shapeOf(formula);
  const linked = [actual, basis].flatMap((side) => side.views.map((coverage, v) => ({ view: views[v]!, coverage })));
  const months = linkMonths(linked, calendar);
  return { actual: months.slice(0, views.length), basis: months.slice(views.length) };
}

/** The basis, or its absence where one side can tell accounts apart in the scope that the other cannot. */
function alike(kpi: CompiledKpi, actual: SideCoverage, basis: SideCoverage, context: MeasureContext): SideCoverage {
  const views = basis.views.map((view, v) => alikeView(actual.views[v]!, view, context));
  // What nothing was taken from is the same coverage, so that it is not measured anew.
  if (views.every((view, v) => view === basis.views[v])) return basis;
  return { ...views[shapeOf(kpi.formula).lead]!, views };
}

function alikeView(actual: ViewCoverage, basis: ViewCoverage, context: MeasureContext): ViewCoverage {
  if (actual.absence || basis.absence) return basis;
  const unlike = actual.answers.map((own, i) => unlikeLeaf(own, basis.answers[i]!)).find((leaf) => leaf !== undefined);
  if (unlike === undefined) return basis;
  const name = context.accounts.accounts.get(unlike)!.name;
  const detail = `${name} is not kept by ${actual.side.name} and ${basis.side.name} alike in this scope.`;
  return { ...basis, answers: [], holdsByQuarter: false, own: [], months: [], absence: absent("not covered", detail) };
}

function noDelta(actual: Measurement, basis: Measurement): Absence {
  if (!isPresent(basis.figure)) return absent("no base", basis.figure.detail);
  return isPresent(actual.figure) ? absent("no base", "There is nothing to compare with.") : actual.figure;
}
