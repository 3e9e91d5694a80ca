import { fiscalYearOf, fiscalYearStart, monthsName } from "../calendar/fiscal-calendar.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { absent, combine, present } from "../figures/figure.ts";
import type { FormulaInput } from "../formula/node.ts";
import { unlikeLeaf } from "./ask-side.ts";
import type { MeasureContext } from "./measure-ground.ts";
import type { Measurement } from "./measurement.ts";
import type { Measuring } from "./measuring.ts";
import { estimateRest } from "./outlook-estimates.ts";
import { closedMonths, openDays, planOfRest } from "./outlook-months.ts";
import { isEstimate, LATEST, type OutlookSource } from "../formula/outlook-source.ts";
import { ACTUAL, type OpenDays, type Side } from "./side.ts";
import { rangeWindow } from "./window.ts";
import type { Measured } from "./measured.ts";
import type { Rest, YearStretch } from "./year-stretch.ts";
import type { Absence, Figure } from "../figures/schema.ts";

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
  const closed = closedMonths(kpi, asOf, context, measuring);
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
  const source = planOfRest(wanted, kpi, asOf, context);
  if ("absent" in source) return source;
  const remainder = over(source, rest);
  if ("absent" in remainder) return remainder;
  const unlike = actual && unlikeAccount(actual, remainder, context);
  if (unlike)
    return absent("not covered", `${unlike} is not kept by the actual and ${source.name} alike in this scope.`);
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

interface OpenMonth extends OpenDays {
  readonly inputs: readonly Figure[];
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
  measuring: Measuring,
): OpenMonth | null {
  const found = openDays(kpi, month, asOf, context, measuring);
  if (!found) return null;
  const months = found.coverage.views.map((view) => view.months);
  return { ...found, inputs: measuring.measure(kpi, found.coverage, months, context).inputs };
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

/** An account that the closed months tell apart in the scope and the rest does not, or the other way round. */
function unlikeAccount(actual: Measurement, rest: Measurement, { accounts }: MeasureContext): string | undefined {
  const pairs = actual.coverage.views.flatMap((view, v) =>
    view.answers.map((own, i) => unlikeLeaf(own, rest.coverage.views[v]!.answers[i]!)),
  );
  const leaf = pairs.find((found) => found !== undefined);
  return leaf === undefined ? undefined : accounts.accounts.get(leaf)!.name;
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
