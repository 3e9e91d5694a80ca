import { fiscalYearOf, fiscalYearStart, monthsName } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { absent, combine, present, type Absence, type Figure } from "../figures/figure.ts";
import type { FormulaInput } from "../formula/node.ts";
import type { Measured } from "./cover-view.ts";
import { hasInputs } from "./has-inputs.ts";
import type { MeasureContext, MeasureGround } from "./measure-ground.ts";
import type { Measurement, SideCoverage } from "./measurement.ts";
import { ACTUAL, latestForecast, type Side } from "./side.ts";
import { rangeWindow, type Window } from "./window.ts";

/** How formulas are measured; given, since measuring itself reads outlooks. */
export interface Measuring {
  readonly coverSide: (kpi: Measured, side: Side, window: Window, frame: MeasureGround) => SideCoverage;
  readonly measure: (
    kpi: Measured,
    coverage: SideCoverage,
    months: readonly (readonly Month[])[],
    context: MeasureContext,
  ) => Measurement;
}

/** The inputs of a formula over a fiscal year: closed months from the actual, the rest from a plan. */
export interface OutlookInputs {
  readonly inputs: readonly Figure[];
  readonly closed: readonly Month[];
  /** Where the remaining months come from; `null` when none remain. */
  readonly source: Side | null;
}

/**
 * Gathers a formula's inputs over the fiscal year of a month: the months that the actual has, up to that
 * month, and those it does not have yet from the latest forecast known then, else from the budget. Absent
 * where a month is in neither. Of any other side than the actual it is that side's own year.
 */
export function outlookInputs(
  kpi: Measured,
  { side, asOf }: { side: Side; asOf: Month },
  context: MeasureContext,
  { coverSide, measure }: Measuring,
): OutlookInputs | Absence {
  const start = fiscalYearStart(context.calendar, fiscalYearOf(context.calendar, asOf));
  const year = monthsBetween(start, start + 11);
  const over = (of: Side, months: readonly Month[]): Measurement | Absence => {
    const coverage = coverSide(kpi, of, rangeWindow(months), context);
    if (coverage.absence) return coverage.absence;
    const open = months.filter((month) => !coverage.months.includes(month)).map((month) => month - of.shift);
    if (open.length > 0)
      return absent(
        "not covered",
        `${of.name} has nothing for ${monthsName(context.calendar, open)}: the year is not whole.`,
      );
    return measure(
      kpi,
      coverage,
      coverage.views.map((view) => view.months),
      context,
    );
  };
  if (side.scenario !== ACTUAL.scenario || side.shift !== 0) {
    const own = over(side, year);
    return "absent" in own ? own : { inputs: own.inputs, closed: year, source: null };
  }
  const toDate = coverSide(kpi, ACTUAL, rangeWindow(monthsBetween(start, asOf)), context);
  const last = toDate.months.at(-1);
  // Months before the last one that is there are to be closed: a gap among them is no month to come.
  const closed = last === undefined ? [] : monthsBetween(start, last);
  const rest = year.slice(closed.length);
  const source = rest.length === 0 ? null : outlookSource(kpi, asOf, context);
  if (rest.length > 0 && !source) return absent("not covered", "Neither a forecast nor a budget has it.");
  const actual = closed.length === 0 ? null : over(ACTUAL, closed);
  if (actual && "absent" in actual) return actual;
  const remainder = source && over(source, rest);
  if (remainder && "absent" in remainder) return remainder;
  const inputs = kpi.formula.inputs.map((input, i) =>
    joined(
      input,
      { figure: actual?.inputs[i], months: closed.length },
      { figure: remainder?.inputs[i], months: rest.length },
    ),
  );
  return { inputs, closed, source };
}

/** Where the months come from that are not closed as of a month; `null` where no plan has them. */
export function outlookSource(kpi: Measured, asOf: Month, own: MeasureGround): Side | null {
  const latest = latestForecast(own.coverage, asOf);
  const found = [latest, own.coverage.scenarios.get("budget")].find((s) => s && hasInputs(kpi, s.key, own));
  return found ? { scenario: found.key, shift: 0, name: found.name } : null;
}

interface Stretch {
  readonly figure: Figure | undefined;
  readonly months: number;
}

/** One input over two stretches of time: flows add up, closing balances are the later one's, averages weigh by months. */
function joined(input: FormulaInput, first: Stretch, second: Stretch): Figure {
  if (!first.figure) return second.figure ?? absent("no data", "The year has no months.");
  if (!second.figure) return first.figure;
  const gathering = input.kind === "account" ? input.gathering : "sum";
  if (gathering === "closing") return second.figure;
  const [m, n] = [first.months, second.months];
  return combine(first.figure, second.figure, (x, y) =>
    present(gathering === "average" ? (x * m + y * n) / (m + n) : x + y),
  );
}
