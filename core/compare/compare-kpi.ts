import type { Month } from "../calendar/month.ts";
import { spanMonths } from "../calendar/span.ts";
import { keptLeaves } from "../cube/coverage.ts";
import { absent, isPresent, type Absence } from "../figures/figure.ts";
import { evaluateDifference } from "../formula/evaluate.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Frame } from "./frame.ts";
import {
  commonMonths,
  coverSide,
  measure,
  type MeasureContext,
  type Measurement,
  type SideCoverage,
} from "./measure.ts";
import { ACTUAL, basisSide, type Side } from "./side.ts";
import { varianceOf, type Variance } from "./variance.ts";

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
  const asked = spanMonths(context.calendar, frame.span, frame.asOf);
  const side = basisSide({ ...frame, coverage: context.coverage, calendar: context.calendar });
  const { fallbackBasis } = kpi.definition;
  if (fallbackBasis !== null && (isAbsence(side) || !hasInputs(kpi, side.scenario, context))) {
    const own = basisSide({
      ...frame,
      basis: { kind: "scenario", scenario: fallbackBasis },
      coverage: context.coverage,
      calendar: context.calendar,
    });
    if (!isAbsence(own)) return { ...compareSides(kpi, ACTUAL, own, asked, context), isFallback: true };
  }
  return { ...compareSides(kpi, ACTUAL, side, asked, context), isFallback: false };
}

/** Compares two sides of a KPI over the asked months. A basis that is absent stays so, with its reason. */
export function compareSides(
  kpi: CompiledKpi,
  actualSide: Side,
  basisOrAbsence: Side | Absence,
  asked: readonly Month[],
  context: MeasureContext,
): Omit<Comparison, "isFallback"> {
  const actual = coverSide(kpi, actualSide, asked, context);
  const basis = isAbsence(basisOrAbsence)
    ? uncovered({ scenario: "", shift: 0, name: "Basis" }, basisOrAbsence)
    : alike(actual, coverSide(kpi, basisOrAbsence, asked, context), context);
  const compared = basis.absence || actual.absence ? [] : commonMonths(actual, basis, context.calendar);
  const inCommon = measure(kpi, actual, compared, context);
  // Without a common month the basis still has its own figure to show; only Δ has no base.
  const basisMonths = actual.absence ? basis.months : compared;
  const measuredBasis = measure(kpi, basis, basisMonths, context);
  const delta =
    inCommon.inputs.length > 0 && isPresent(inCommon.figure) && isPresent(measuredBasis.figure)
      ? evaluateDifference(kpi.formula, inCommon.inputs, measuredBasis.inputs)
      : noDelta(inCommon, measuredBasis);
  return {
    actual: measure(kpi, actual, actual.months, context),
    actualInCommon: inCommon,
    basis: measuredBasis,
    variance: varianceOf(delta, measuredBasis.figure, kpi.definition),
    asked,
    compared,
  };
}

/** Whether a scenario keeps all of a KPI's inputs, whatever the months and scope. */
export function hasInputs(
  kpi: CompiledKpi,
  scenario: string,
  context: Pick<MeasureContext, "accounts" | "coverage">,
): boolean {
  return kpi.formula.inputs.every(
    (input) => keptLeaves(context.coverage, scenario, context.accounts.leaves.get(input.account)!).isWhole,
  );
}

/** The basis, or its absence where one side can tell accounts apart in the scope that the other cannot. */
function alike(actual: SideCoverage, basis: SideCoverage, context: MeasureContext): SideCoverage {
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
  return uncovered(
    basis.side,
    absent("not covered", `${name} is not kept by ${actual.side.name} and ${basis.side.name} alike in this scope.`),
  );
}

function noDelta(actual: Measurement, basis: Measurement): Absence {
  if (!isPresent(basis.figure)) return absent("no base", basis.figure.detail);
  return isPresent(actual.figure) ? absent("no base", "There is nothing to compare.") : actual.figure;
}

function uncovered(side: Side, absence: Absence): SideCoverage {
  return { side, answers: [], holdsByQuarter: false, months: [], absence };
}

function isAbsence(side: Side | Absence): side is Absence {
  return "absent" in side;
}
