import { fiscalYearOf, fiscalYearStart, type FiscalCalendar } from "../../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../../calendar/month.ts";
import { basisOf } from "../../compare/basis-of.ts";
import { compareSides, type Comparison, type SidesCompared } from "../../compare/compare-kpi.ts";
import type { Frame } from "../../compare/frame.ts";
import { hasInputs } from "../../compare/has-inputs.ts";
import { measureOver } from "../../compare/measure.ts";
import type { MeasureContext, MeasureGround } from "../../compare/measure-ground.ts";
import { PRIOR_YEAR, readSide, WITH_OUTLOOK, type Side } from "../../compare/side.ts";
import { frameMonths, spanWindow, windowMonths } from "../../compare/window.ts";
import { varianceOf } from "../../compare/variance.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { partOfPeriod, periodsOf, type Period } from "../../series/periods.ts";
import { chartSides } from "./open-side.ts";
import type { Figure, Variance } from "../../figures/schema.ts";

/** A KPI in one period on every side, with the period's variance. */
export interface SeriesPoint {
  readonly period: Period;
  readonly actual: Figure;
  /** After the last shown actual: what the latest forecast expects. */
  readonly forecast: Figure;
  readonly budget: Figure;
  readonly target: Figure;
  readonly priorYear: Figure;
  readonly basis: Figure;
  /** Actual against basis; forecast against basis where the actual is not there yet. */
  readonly variance: Variance;
  readonly varianceOf: "actual" | "forecast";
  /** Whether the period belongs to the frame's span. */
  readonly inSpan: boolean;
}

/** A KPI over time, period by period. */
export interface TimeSeries {
  readonly points: readonly SeriesPoint[];
  /** The last period with an actual that is shown; `null` when there is none. */
  readonly closedTo: Period | null;
  /** What is drawn of closed periods: the actual, or a version in its place. */
  readonly actualName: string;
  readonly forecastName: string | null;
  readonly basisName: string;
  /** The comparison over the whole span: what the headline speaks of. */
  readonly comparison: Comparison;
}

/** The months a chart of this frame shows: the fiscal year, and the span where it begins earlier. */
export function seriesMonths(calendar: FiscalCalendar, frame: Frame): Month[] {
  const start = fiscalYearStart(calendar, fiscalYearOf(calendar, frame.asOf));
  const asked = frameMonths(calendar, frame);
  return monthsBetween(Math.min(start, asked[0]!), start + 11);
}

/** The months a chart of this frame shows, as periods. */
export function seriesPeriods(calendar: FiscalCalendar, frame: Frame): Period[] {
  return periodsOf("month", { calendar, asOf: frame.asOf, months: seriesMonths(calendar, frame) });
}

const NOT_CLOSED = absent("not closed yet", "After the as-of period.");

/** Lays a KPI out over time on all sides; `comparison` is the span's own, from the same path. */
export function timeSeries(
  kpi: CompiledKpi,
  frame: Frame,
  comparison: Comparison,
  context: MeasureContext,
  periods: readonly Period[] = seriesPeriods(context.calendar, frame),
): TimeSeries {
  const sides = drawnSides(kpi, context);
  const { known, open } = chartSides(kpi, frame.asOf, context);
  // What an outlook adds up belongs to one period: one that is partly closed is expected as a whole.
  const isKnown = ({ from }: Period, { actual }: SidesCompared) =>
    frame.shown === undefined
      ? from <= frame.asOf
      : frame.shown !== WITH_OUTLOOK ||
        !isPresent(actual.figure) ||
        actual.months.length === actual.coverage.asked.length;
  const { side: basis } = basisOf(kpi, frame, context);
  const asked = new Set(windowMonths(spanWindow(context, frame.span, frame.asOf)));
  const drawn = (side: Side | undefined, { window }: Period, missing: string) =>
    side ? measureOver(kpi, side, window, context).figure : absent("not covered", missing);
  // Each period is compared as any span is, so that a formula with a span of its own is like for like here too.
  const compared = periods.map((period, at) => {
    const sidesOf = compareSides(kpi, known, basis, period.window, context);
    return { period, at, actual: isKnown(period, sidesOf) ? sidesOf.actual.figure : NOT_CLOSED, sides: sidesOf };
  });
  // A period that is only partly closed is shown as far as it is, on every side: a third of a quarter beside a whole
  // one's budget would look like a miss.
  const partly = compared.map((point) => ({ ...point, period: asFarAsMeasured(point.period, point.sides) }));
  const closed = partly.filter(({ actual }) => isPresent(actual)).at(-1);

  const points = partly.map(({ period, at, actual, sides: ofActual }): SeriesPoint => {
    const isOpen = closed === undefined || at > closed.at;
    const ofForecast = isOpen && open ? compareSides(kpi, open, basis, period.window, context) : undefined;
    const forecast = ofForecast?.actual.figure ?? absent("not covered", noForecast(isOpen));
    const shown = isOpen ? ofForecast : ofActual;
    return {
      period,
      actual,
      forecast,
      budget: drawn(sides.budget, period, "This KPI has no budget."),
      target: drawn(sides.target, period, "This KPI has no target."),
      priorYear: drawn(sides.priorYear, period, ""),
      basis: (shown ?? ofActual).basis.figure,
      variance: shown?.variance ?? varianceOf(forecast, forecast, kpi.definition),
      varianceOf: isOpen ? "forecast" : "actual",
      inSpan: asked.has(period.from) && asked.has(period.to),
    };
  });
  return {
    points,
    closedTo: closed?.period ?? null,
    actualName: readSide(known, context).name,
    forecastName: open?.name ?? null,
    basisName: "absent" in basis ? "Basis" : basis.name,
    comparison,
  };
}

/** The part of a period of several months that the actual has; the period itself where it has all of them, or none. */
function asFarAsMeasured(period: Period, { actual }: SidesCompared): Period {
  const [first, last] = [actual.months[0], actual.months.at(-1)];
  if (!isPresent(actual.figure) || first === undefined || last === undefined || period.window.days) return period;
  return first > period.from || last < period.to ? partOfPeriod(period, first, last) : period;
}

function noForecast(isOpen: boolean): string {
  return isOpen ? "No forecast had been made." : "The period is closed.";
}

/** The sides a chart over time draws; those that the KPI does not have are left out. */
function drawnSides(kpi: CompiledKpi, own: MeasureGround) {
  const known = (scenario: string): Side | undefined => {
    const found = own.coverage.scenarios.get(scenario);
    return found && hasInputs(kpi, scenario, own) ? { scenario, shift: 0, name: found.name } : undefined;
  };
  return {
    budget: known("budget"),
    target: known("target"),
    priorYear: PRIOR_YEAR,
  };
}
