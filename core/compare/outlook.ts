import { fiscalYearOf, fiscalYearStart } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import { absent, combine, isPresent, map, present, type Absence, type Figure } from "../figures/figure.ts";
import { evaluateDifference, evaluateFormula } from "../formula/evaluate.ts";
import { isPlain } from "../formula/view.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { hasInputs } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { isMeasured, measureWhole } from "./measure-whole.ts";
import { viewsOf, type MeasureContext, type MeasureFrame } from "./measure.ts";
import type { Ask } from "./plan-reads.ts";
import { ACTUAL, basisSide, latestForecast, type Side } from "./side.ts";
import { varianceOf, type Variance } from "./variance.ts";
import { rangeWindow } from "./window.ts";

const YEAR_TO_DATE: Span = { kind: "year-to-date" };
const FULL_YEAR: Span = { kind: "full-year" };

/** The fiscal year as it is expected to end: closed months from the actual, the rest from a plan. */
export interface Outlook {
  readonly figure: Figure;
  /** Where the remaining months come from; `null` when none remain or nothing has them. */
  readonly source: Side | null;
  /** The whole year by the frame's basis. */
  readonly basis: Figure;
  readonly variance: Variance;
}

/** What the outlook of KPIs looks up. */
export function outlookAsks(kpis: readonly CompiledKpi[], frame: Frame, own: MeasureFrame): Ask[] {
  const { rest } = yearOf(frame, own);
  const basis = basisSide({ ...frame, span: FULL_YEAR, coverage: own.coverage, calendar: own.calendar });
  return [
    { kpis, side: ACTUAL, windows: [{ span: YEAR_TO_DATE, asOf: frame.asOf }] },
    ...(rest.length === 0
      ? []
      : kpis.flatMap((kpi): Ask[] => {
          const source = sourceOf(kpi, frame, own);
          return source ? [{ kpis: [kpi], side: source, windows: [rangeWindow(rest)] }] : [];
        })),
    ...("absent" in basis ? [] : [{ kpis, side: basis, windows: [{ span: FULL_YEAR, asOf: frame.asOf }] }]),
  ];
}

/**
 * The full-year outlook of a KPI: inputs of the closed months from the actual and of the
 * remaining ones from the latest forecast (else the budget) are added, and the formula is applied then.
 */
export function outlookOf(kpi: CompiledKpi, frame: Frame, context: MeasureContext): Outlook {
  const { calendar, coverage } = context;
  const { rest } = yearOf(frame, context);
  const side = basisSide({ ...frame, span: FULL_YEAR, coverage, calendar });
  const basis = "absent" in side ? side : measureWhole(kpi, side, { span: FULL_YEAR, asOf: frame.asOf }, context);
  const basisFigure = isMeasured(basis) ? basis.figure : basis;
  const source = rest.length === 0 ? null : (sourceOf(kpi, frame, context) ?? null);
  const without = (absence: Absence): Outlook => ({
    figure: absence,
    source,
    basis: basisFigure,
    variance: varianceOf(absence, basisFigure, kpi.definition),
  });
  if (!viewsOf(kpi).every(isPlain))
    return without(absent("not covered", "Its formula says its own time or scenario: it has no outlook beside it."));
  const toDate = measureWhole(kpi, ACTUAL, { span: YEAR_TO_DATE, asOf: frame.asOf }, context);
  if (!isMeasured(toDate)) return without(toDate);
  if (rest.length > 0 && !source) return without(absent("not covered", "Neither a forecast nor a budget has it."));
  const remainder = source ? measureWhole(kpi, source, rangeWindow(rest), context) : null;
  if (remainder && !isMeasured(remainder)) return without(remainder);
  const inputs = kpi.formula.inputs.map((input, i): Figure => {
    const a = toDate.inputs[i]!;
    const b = remainder?.inputs[i];
    if (!b) return a;
    if (input.kind === "account" && input.gathering === "closing") return b;
    const weighs = input.kind === "account" && input.gathering === "average";
    const [m, n] = [toDate.months.length, rest.length];
    return combine(a, b, (x, y) => present(weighs ? (x * m + y * n) / (m + n) : x + y));
  });
  const figure = evaluateFormula(kpi.formula, inputs);
  const delta: Figure =
    isPresent(figure) && isMeasured(basis) && isPresent(basis.figure)
      ? evaluateDifference(kpi.formula, inputs, basis.inputs)
      : isPresent(figure)
        ? absent("no base", isPresent(basisFigure) ? "There is nothing to compare." : basisFigure.detail)
        : figure;
  return { figure, source, basis: basisFigure, variance: varianceOf(delta, basisFigure, kpi.definition) };
}

/** The gap per remaining month: what is missing to the full-year basis, spread over the months left. */
export function gapPerMonth(toDate: Figure, fullYearBasis: Figure, monthsLeft: number): Figure {
  if (monthsLeft <= 0) return absent("no base", "No month is left.");
  return map(
    combine(fullYearBasis, toDate, (basis, actual) => present(basis - actual)),
    (gap) => gap / monthsLeft,
  );
}

function sourceOf(kpi: CompiledKpi, frame: Frame, own: MeasureFrame): Side | undefined {
  const latest = latestForecast(own.coverage, frame.asOf);
  const found = [latest, own.coverage.scenarios.get("budget")].find((s) => s && hasInputs(kpi, s.key, own));
  return found && { scenario: found.key, shift: 0, name: found.name };
}

function yearOf({ asOf }: Frame, { calendar }: Pick<MeasureFrame, "calendar">): { rest: Month[] } {
  const end = fiscalYearStart(calendar, fiscalYearOf(calendar, asOf)) + 11;
  return { rest: asOf < end ? monthsBetween(asOf + 1, end) : [] };
}
