import type { Span } from "../calendar/span.ts";
import { toMajor } from "../figures/amount.ts";
import { absent, combine, isPresent, map, present } from "../figures/figure.ts";
import { evaluateDifference, evaluateFormula } from "../formula/evaluate.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { basisOf } from "./basis-of.ts";
import { readsPlainly } from "./formula-shape.ts";
import type { Frame } from "./frame.ts";
import { isMeasured, MEASURING, measureWhole } from "./measure.ts";
import type { MeasureContext } from "./measure-ground.ts";
import { outlookInputs, type RestSource } from "./outlook-inputs.ts";
import type { OutlookSource } from "../formula/outlook-source.ts";
import { ACTUAL } from "./side.ts";
import { varianceOf } from "./variance.ts";
import { wholeWindow } from "./window.ts";
import type { Absence, Figure, Variance } from "../figures/schema.ts";

const FULL_YEAR: Span = { kind: "full-year" };

/** The fiscal year as it is expected to end: closed months from the actual, the rest from a plan. */
export interface Outlook {
  readonly figure: Figure;
  /** How many months of it are closed. */
  readonly closed: number;
  /** Where the remaining months come from; `null` when none remain, or when there is no figure. */
  readonly source: RestSource | null;
  /** The remaining months one by one, where they are estimated; else they are the source's own. */
  readonly monthly: readonly Figure[] | null;
  /** How many days of the open month are actual. */
  readonly openDays: number;
  /** The whole year by the frame's basis. */
  readonly basis: Figure;
  readonly variance: Variance;
}

/**
 * The full-year outlook of a KPI: inputs of the closed months from the actual and of the
 * remaining ones from the latest forecast (else the budget) are added, and the formula is applied then.
 */
export function outlookOf(kpi: CompiledKpi, frame: Frame, context: MeasureContext, from?: OutlookSource): Outlook {
  const { side } = basisOf(kpi, { ...frame, span: FULL_YEAR }, context);
  const year = wholeWindow(context, FULL_YEAR, frame.asOf);
  const basis = "absent" in side ? side : measureWhole(kpi, side, year, context);
  const basisFigure = isMeasured(basis) ? basis.figure : basis;
  const found = readsPlainly(kpi)
    ? outlookInputs(kpi, { side: ACTUAL, asOf: frame.asOf, from }, context, MEASURING)
    : absent("not covered", "Its formula sets its own time or scenario, so there is no outlook.");
  if ("absent" in found)
    return {
      figure: found,
      closed: 0,
      source: null,
      monthly: null,
      openDays: 0,
      basis: basisFigure,
      variance: varianceOf(found, basisFigure, kpi.definition),
    };
  const { decimals } = kpi.formula.root;
  const inMajor = (minor: Figure) => map(minor, (value) => toMajor(value, decimals));
  const figure = found.whole ? inMajor(found.whole) : evaluateFormula(kpi.formula, found.inputs);
  const delta =
    isPresent(figure) && isMeasured(basis) && isPresent(basis.figure)
      ? found.whole
        ? present(figure.value - basis.figure.value)
        : evaluateDifference(kpi.formula, found.inputs, basis.inputs)
      : noDelta(figure, basisFigure);
  return {
    figure,
    closed: found.closed.length,
    source: found.source,
    monthly: found.monthly && found.monthly.map(inMajor),
    openDays: found.openDays,
    basis: basisFigure,
    variance: varianceOf(delta, basisFigure, kpi.definition),
  };
}

/** Where an outlook comes from, in words; why there is none, where it is absent. */
export function outlookNote({ figure, closed, source, openDays }: Outlook): string {
  if (!isPresent(figure)) return figure.detail;
  if (!source) return "All months are closed.";
  const days = openDays === 0 ? "" : `, ${openDays} days of the next`;
  if (closed === 0 && openDays === 0) return `No month is closed: all of it is ${source.name}.`;
  const months = closed === 0 ? "No closed month" : closed === 1 ? "One closed month" : `${closed} closed months`;
  return `${months}${days}, then ${source.name}.`;
}

/** The gap per remaining month: what is missing to the full-year basis, spread over the months left. */
export function gapPerMonth(toDate: Figure, fullYearBasis: Figure, monthsLeft: number): Figure {
  if (monthsLeft <= 0) return absent("no base", "No month is left.");
  return map(
    combine(fullYearBasis, toDate, (basis, actual) => present(basis - actual)),
    (gap) => gap / monthsLeft,
  );
}

function noDelta(figure: Figure, basis: Figure): Absence {
  if (!isPresent(figure)) return figure;
  return absent("no base", isPresent(basis) ? "There is nothing to compare with." : basis.detail);
}
