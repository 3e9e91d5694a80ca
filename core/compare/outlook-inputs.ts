import { fiscalYearOf, fiscalYearStart, monthsName } from "../calendar/fiscal-calendar.ts";
import { daysInMonth, monthsBetween, type Month } from "../calendar/month.ts";
import { asOfDay } from "../cube/coverage.ts";
import { absent, combine, present, type Absence, type Figure } from "../figures/figure.ts";
import type { FormulaInput } from "../formula/node.ts";
import type { Measured } from "./cover-view.ts";
import { hasInputs } from "./has-inputs.ts";
import type { MeasureContext, MeasureGround } from "./measure-ground.ts";
import type { Measurement } from "./measurement.ts";
import type { Measuring } from "./measuring.ts";
import { estimateRest } from "./outlook-estimates.ts";
import { isEstimate, LATEST, type OutlookSource } from "./outlook-source.ts";
import { ACTUAL, forecastsBy, type Side } from "./side.ts";
import { rangeWindow, spanWindow } from "./window.ts";

/** Where remaining months come from: a scenario that plans them, or an estimate, which has no scenario. */
export interface RestSource {
  readonly name: string;
  readonly side: Side | null;
}

/** The inputs of a formula over a fiscal year: closed months from the actual, the rest from a plan or an estimate. */
export interface OutlookInputs {
  readonly inputs: readonly Figure[];
  readonly closed: readonly Month[];
  /** Where the remaining months come from; `null` when none remain. */
  readonly source: RestSource | null;
  /** The remaining months, one by one, in minor units of the formula, where they are estimated; else they are the source's. */
  readonly monthly: readonly Figure[] | null;
  /** What the year adds up to, in minor units, where the formula's own series is forecast rather than its inputs. */
  readonly whole: Figure | null;
  /** How many days of the first remaining month are actual; 0 where none are. */
  readonly openDays: number;
}

/**
 * Gathers a formula's inputs over the fiscal year of a month: the months that the actual has, up to that month, and
 * those it does not have yet from a source. Absent where a month is in neither. An open month takes its actual days
 * and the source for the days that are left. Of any other side than the actual it is that side's own year.
 */
export function outlookInputs(
  kpi: Measured,
  { side, asOf, from }: { side: Side; asOf: Month; from?: OutlookSource | undefined },
  context: MeasureContext,
  measuring: Measuring,
): OutlookInputs | Absence {
  const start = fiscalYearStart(context.calendar, fiscalYearOf(context.calendar, asOf));
  const year = monthsBetween(start, start + 11);
  const over = (of: Side, months: readonly Month[]) => wholeOver(kpi, of, months, context, measuring);
  if (side.scenario !== ACTUAL.scenario || side.shift !== 0) {
    const own = over(side, year);
    return "absent" in own ? own : settled({ inputs: own.inputs, closed: year });
  }
  const toDate = measuring.coverSide(kpi, ACTUAL, rangeWindow(monthsBetween(start, asOf)), context);
  const last = toDate.months.at(-1);
  // Months before the last one that is there are to be closed: a gap among them is no month to come.
  const closed = last === undefined ? [] : monthsBetween(start, last);
  const rest = year.slice(closed.length);
  const actual = closed.length === 0 ? null : over(ACTUAL, closed);
  if (actual && "absent" in actual) return actual;
  if (rest.length === 0) return settled({ inputs: actual!.inputs, closed });
  const wanted = from ?? context.outlook ?? LATEST;
  const open = openMonth(kpi, rest[0]!, asOf, context, measuring);
  const stretch = { year, closed, rest, actual };
  if (isEstimate(wanted)) {
    const found = estimateRest(wanted, kpi, stretch, { over, context, measuring });
    if ("absent" in found) return found;
    return joinedYear(kpi, stretch, { ...found, source: { name: found.name, side: null } }, open);
  }
  const source = wanted === LATEST ? outlookSource(kpi, asOf, context) : scenarioSource(wanted, kpi, context);
  if ("absent" in source) return source;
  const remainder = over(source, rest);
  if ("absent" in remainder) return remainder;
  const first = open && over(source, [rest[0]!]);
  if (first && "absent" in first) return first;
  return joinedYear(
    kpi,
    stretch,
    {
      source: { name: source.name, side: source },
      inputs: remainder.inputs,
      first: first ? first.inputs : null,
      monthly: null,
      whole: null,
    },
    open,
  );
}

/** The remaining months of a year as a source has them. */
export interface Rest {
  readonly inputs: readonly Figure[];
  /** The first remaining month alone; `null` where it is not asked for. */
  readonly first: readonly Figure[] | null;
  readonly monthly: readonly Figure[] | null;
  readonly whole: Figure | null;
}

/** A year in two stretches: what is closed, and what remains. */
export interface YearStretch {
  readonly year: readonly Month[];
  readonly closed: readonly Month[];
  readonly rest: readonly Month[];
  /** `null` where no month is closed. */
  readonly actual: Measurement | null;
}

interface OpenMonth {
  readonly inputs: readonly Figure[];
  readonly days: number;
  /** The share of the month that they are. */
  readonly share: number;
}

function joinedYear(
  { formula }: Measured,
  { closed, rest, actual }: YearStretch,
  { source, inputs: ofRest, first, monthly, whole }: Rest & { readonly source: RestSource },
  open: OpenMonth | null,
): OutlookInputs {
  const isOpen = open !== null && first !== null && whole === null;
  const inputs = formula.inputs.map((input, i) => {
    const remaining = isOpen ? withDays(input, ofRest[i]!, first[i]!, open, i) : ofRest[i];
    return joined(
      input,
      { figure: actual?.inputs[i], months: closed.length },
      { figure: remaining, months: rest.length },
    );
  });
  return { inputs, closed, source, monthly, whole, openDays: isOpen ? open.days : 0 };
}

/** What remains of an input, with the days of its first month that are there in the place of their share. */
function withDays(input: FormulaInput, rest: Figure, first: Figure, open: OpenMonth, i: number): Figure {
  if (input.kind !== "account" || input.gathering !== "sum") return rest;
  const left = combine(rest, first, (all, month) => present(all - month * open.share));
  return combine(left, open.inputs[i]!, (days, actual) => present(days + actual));
}

/** The actual days of a month that is not whole, where all that the formula reads is kept by day. */
function openMonth(
  kpi: Measured,
  month: Month,
  asOf: Month,
  context: MeasureContext,
  { coverSide, measure }: Measuring,
): OpenMonth | null {
  if (month > asOf) return null;
  const window = spanWindow(context, { kind: "month-to-date" }, month);
  const coverage = coverSide(kpi, ACTUAL, window, context);
  if (coverage.absence || !coverage.months.includes(month)) return null;
  const months = coverage.views.map((view) => view.months);
  const days = Math.min(asOfDay(context.coverage, month), daysInMonth(month));
  return { inputs: measure(kpi, coverage, months, context).inputs, days, share: days / daysInMonth(month) };
}

function settled({ inputs, closed }: Pick<OutlookInputs, "inputs" | "closed">): OutlookInputs {
  return { inputs, closed, source: null, monthly: null, whole: null, openDays: 0 };
}

/** A formula on a side over months that must all be there. */
function wholeOver(
  kpi: Measured,
  of: Side,
  months: readonly Month[],
  context: MeasureContext,
  { coverSide, measure }: Measuring,
): Measurement | Absence {
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
}

/** Where the months come from that are not closed as of a month, where nothing is chosen. */
function outlookSource(kpi: Measured, asOf: Month, own: MeasureGround): Side | Absence {
  const found = [...forecastsBy(own.coverage, asOf), own.coverage.scenarios.get("budget")].find(
    (s) => s && hasInputs(kpi, s.key, own),
  );
  return found
    ? { scenario: found.key, shift: 0, name: found.name }
    : absent("not covered", "Neither a forecast nor a budget has it.");
}

function scenarioSource(key: string, kpi: Measured, own: MeasureGround): Side | Absence {
  const found = own.coverage.scenarios.get(key);
  if (!found) return absent("not covered", `There is no scenario "${key}" to take the remaining months from.`);
  if (!hasInputs(kpi, key, own)) return absent("not covered", `${found.name} does not have it.`);
  return { scenario: found.key, shift: 0, name: found.name };
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
