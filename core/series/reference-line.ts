import { fiscalYearOf, fiscalYearStart, monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import type { Frame } from "../compare/frame.ts";
import { hasInputs } from "../compare/has-inputs.ts";
import { measureMonth, measureOver } from "../compare/measure.ts";
import type { MeasureContext, MeasureGround } from "../compare/measure-ground.ts";
import type { Side } from "../compare/side.ts";
import { frameMonths, rangeWindow } from "../compare/window.ts";
import { absent, isPresent, present } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { ReferenceLine, ReferencePeriod, ReferenceStatistic } from "./reference-kinds.ts";
import type { Figure } from "../figures/schema.ts";

/** A reference line with its words and its height. */
export interface PlacedReference {
  readonly name: string;
  readonly figure: Figure;
}

const STATISTIC_NAMES: Readonly<Record<ReferenceStatistic, string>> = {
  average: "Average",
  median: "Median",
  lowest: "Lowest",
  highest: "Highest",
};

/**
 * Where a reference line stands: a statistic of the monthly figures of its period, as far as they
 * are there and not after the as-of month; `chosenYear` is the fiscal year that a reader chose. The average of a rate is the rate over those months
 * together, from aggregated inputs.
 */
export function placeReference(
  reference: ReferenceLine,
  kpi: CompiledKpi,
  frame: Frame,
  context: MeasureContext,
  chosenYear?: number,
): PlacedReference {
  if (reference.kind === "constant") return { name: reference.name, figure: present(reference.value) };
  const { calendar } = context;
  const asked = periodMonths(reference, frame, calendar, chosenYear);
  const side = sideOf(reference.side, context);
  const title = `${STATISTIC_NAMES[reference.of]}${reference.side === "actual" ? "" : ` of ${side.name}`}`;
  if (!hasInputs(kpi, side.scenario, context))
    return { name: title, figure: absent("not covered", `${side.name} does not have ${kpi.definition.name}.`) };
  const found = asked.flatMap((month) => {
    const { figure } = measureMonth(kpi, side, month, context);
    return isPresent(figure) ? [{ month, value: figure.value }] : [];
  });
  const months = found.map(({ month }) => month);
  const when = months.length > 0 ? months : asked;
  const name = when.length === 0 ? title : `${title}, ${monthsName(calendar, when)}`;
  if (found.length === 0) return { name, figure: absent("no data", `${side.name} has no month there.`) };
  const values = found.map(({ value }) => value).sort((a, b) => a - b);
  if (reference.of === "average" && kpi.formula.behaviour === "rate")
    return { name, figure: over(kpi, side, months, context) };
  return { name, figure: present(statistic(reference.of, values)) };
}

/** The KPI over months that lie together as one, from aggregated inputs. */
function over(kpi: CompiledKpi, side: Side, months: readonly Month[], context: MeasureContext): Figure {
  return measureOver(kpi, side, rangeWindow(monthsBetween(months[0]!, months.at(-1)!)), context).figure;
}

/** Of values in rising order. */
function statistic(of: ReferenceStatistic, values: readonly number[]): number {
  const middle = values.length / 2;
  switch (of) {
    case "average":
      return values.reduce((sum, value) => sum + value, 0) / values.length;
    case "median":
      return Number.isInteger(middle) ? (values[middle - 1]! + values[middle]!) / 2 : values[Math.floor(middle)]!;
    case "lowest":
      return values[0]!;
    case "highest":
      return values.at(-1)!;
  }
}

const YEARS_BACK: Readonly<Record<Exclude<ReferencePeriod, "span" | "chosen-year">, number>> = {
  "this-year": 0,
  "last-year": 1,
  "year-before-last": 2,
};

function periodMonths(
  { over: period, year }: Extract<ReferenceLine, { kind: "statistic" }>,
  frame: Frame,
  calendar: FiscalCalendar,
  chosenYear: number | undefined,
): readonly Month[] {
  if (period === "span") return frameMonths(calendar, frame);
  const own = fiscalYearOf(calendar, frame.asOf);
  const wanted = period === "chosen-year" ? (chosenYear ?? year ?? own) : own - YEARS_BACK[period];
  const start = fiscalYearStart(calendar, wanted);
  return monthsBetween(start, Math.min(start + 11, frame.asOf));
}

function sideOf(scenario: string, { coverage }: Pick<MeasureGround, "coverage">): Side {
  return { scenario, shift: 0, name: coverage.scenarios.get(scenario)?.name ?? scenario };
}
