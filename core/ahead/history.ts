import { dayNumber } from "../calendar/days.ts";
import { daysInMonth, monthsBetween, type Month } from "../calendar/month.ts";
import type { Measurement } from "../compare/measurement.ts";
import type { MeasuringOver } from "../compare/measuring.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { readsPlainly } from "../compare/formula-shape.ts";
import { ACTUAL } from "../compare/side.ts";
import { makeOnce } from "../cube/cell-book.ts";
import { monthsOf } from "../cube/coverage.ts";
import { isPresent } from "../figures/figure.ts";
import { isLinear } from "../formula/is-linear.ts";
import type { FormulaInput } from "../formula/node.ts";
import type { CompiledFormula } from "../formula/node.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { RecentMap } from "../collections/recent-map.ts";
import type { Grain } from "../series/grain.ts";
import { periodsAfter, wholePeriods, type Period } from "../series/periods.ts";
import { knownPeriods } from "./known-events.ts";
import type { KpiHistory } from "./kpi-history.ts";
import { HORIZONS } from "./settings.ts";
import type { Figure, KpiUnit } from "../figures/schema.ts";

/** What is forecast: a KPI; or a formula within one, which knows of the events of its key and has no unit of its own. */
export interface Forecastable {
  readonly definition: { readonly key?: string; readonly name: string; readonly unit?: KpiUnit };
  readonly formula: CompiledFormula;
}

/** A history with the periods it belongs to, and those after it. */
export interface PlacedHistory {
  readonly history: KpiHistory;
  readonly periods: readonly Period[];
  readonly later: readonly Period[];
}

/**
 * The history of a KPI's actual as far as it is known and whole, and the periods that come next; `null` where no
 * period has a figure.
 */
export function historyOf(
  kpi: Forecastable,
  grain: Grain,
  context: MeasureContext,
  { measureOver }: MeasuringOver,
): PlacedHistory | null {
  const reach = reachOf(context);
  if (!reach) return null;
  const before = foundBefore(kpi, grain, context);
  const placed = before.placed.get(reach.to);
  if (placed && placed.events === context.knownEvents) return placed.found;
  const found = placeHistory(kpi, grain, reach, before.measured, context, measureOver);
  before.placed.set(reach.to, { events: context.knownEvents, found });
  return found;
}

function placeHistory(
  kpi: Forecastable,
  grain: Grain,
  reach: Reach,
  known: Map<string, Measurement>,
  context: MeasureContext,
  measureOver: MeasuringOver["measureOver"],
): PlacedHistory | null {
  const { calendar } = context;
  const all = wholePeriods(grain, calendar, reach.from, reach.to).map((period) => ({
    period,
    measured: getOrCreate(known, period.key, () => measureOver(kpi, ACTUAL, period.window, context)),
  }));
  const isWhole = ({ period, measured }: (typeof all)[number]) =>
    isPresent(measured.figure) && measured.months.length === period.to - period.from + 1;
  const [start, end] = [all.findIndex(isWhole), all.findLastIndex(isWhole)];
  if (start < 0) return null;
  const kept = all.slice(start, end + 1);
  const periods = kept.map(({ period }) => period);
  const later = periodsAfter(grain, calendar, periods.at(-1)!, HORIZONS[grain].most);
  const valueOf = (one: (typeof all)[number], figure: Figure | undefined) =>
    isWhole(one) && figure && isPresent(figure) ? figure.value : null;
  const [first] = periods;
  const { days } = first!.window;
  return {
    periods,
    later,
    history: {
      grain,
      values: kept.map((one) => valueOf(one, one.measured.figure)),
      first: { month: first!.from, day: days ? dayNumber({ month: first!.from, day: days.from }) : null },
      keys: periods.map(({ key }) => key),
      known: knownPeriods(context.knownEvents ?? [], kpi.definition.key, context.scope, periods, context.dimensions),
      isFlow: kpi.formula.behaviour === "flow",
      isShare: kpi.definition.unit?.kind === "percent",
      made: isMade(kpi)
        ? {
            formula: kpi.formula,
            inputs: kpi.formula.inputs.map((input, i) => ({
              name: nameOf(input, context),
              values: kept.map((one) => valueOf(one, one.measured.inputs[i])),
              known: input.kind === "clock" ? later.map((period) => clockAhead(input, period)) : null,
            })),
          }
        : null,
    },
  };
}

/** Histories in so many scopes, and to so many last months, are kept for a formula at least. */
const ENOUGH = { scopes: 24, reviews: 3 };
/** What stands in a book for the histories of a formula. */
const places = new WeakMap<CompiledFormula, object>();

/** What was found of a formula in a scope before. */
interface Before {
  /** By the keys of its periods. */
  readonly measured: Map<string, Measurement>;
  /** By the last month that is known, with the events that were known then. */
  readonly placed: RecentMap<
    Month,
    { readonly events: MeasureContext["knownEvents"]; readonly found: PlacedHistory | null }
  >;
}

/**
 * What was found of a formula, of a book that has all cells: period by period a history is the same whoever asks for it,
 * and whatever is known after it, unless the formula itself looks beyond a period.
 */
function foundBefore(
  { formula, definition }: Forecastable,
  grain: Grain,
  { cells, scope, access, knownTo }: MeasureContext,
): Before {
  const place = getOrCreate(places, formula, () => ({}));
  const kept = makeOnce(cells, place, () => new RecentMap<string, Before>(ENOUGH.scopes));
  const name = [grain, scope, access, readsPlainly({ formula }) ? null : knownTo, definition.key, definition.unit];
  return getOrCreate(kept, JSON.stringify(name), () => ({
    measured: new Map(),
    placed: new RecentMap(ENOUGH.reviews),
  }));
}

/** A rate of amounts is made of them; what adds up is a series of its own. */
function isMade(kpi: Forecastable): boolean {
  return (
    readsPlainly(kpi) &&
    !isLinear(kpi.formula) &&
    kpi.formula.inputs.every((input) => input.kind !== "clock" || input.count === "elapsed" || input.count === "whole")
  );
}

interface Reach {
  readonly from: Month;
  readonly to: Month;
}

/** The first month with an actual, and the last one that is known. */
function reachOf({ coverage, knownTo }: MeasureContext): Reach | null {
  const months = [...coverage.datasets.keys()].flatMap((dataset) =>
    monthsOf(coverage, dataset, ACTUAL.scenario).map(({ month }) => month),
  );
  if (months.length === 0) return null;
  const [from, to] = [Math.min(...months), Math.min(knownTo ?? Infinity, Math.max(...months))];
  return from <= to ? { from, to } : null;
}

function nameOf(input: FormulaInput, { accounts }: MeasureContext): string {
  if (input.kind === "account") return accounts.accounts.get(input.account)?.name ?? input.account;
  return input.kind === "clock" ? (input.unit === "day" ? "Days" : "Months") : "A part of the formula";
}

function clockAhead(
  { unit }: Extract<FormulaInput, { kind: "clock" }>,
  { from, to, window: { days } }: Period,
): number {
  const months = monthsBetween(from, to);
  if (unit === "month") return months.length;
  if (days && from === to) return days.to - days.from + 1;
  return days ? 7 : months.reduce((sum, month) => sum + daysInMonth(month), 0);
}
