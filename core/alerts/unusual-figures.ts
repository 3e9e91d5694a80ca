import { historyOf, type PlacedHistory } from "../ahead/history.ts";
import { judgePlaced, type Judged } from "../ahead/judge-range.ts";
import { daysOf, saidOf } from "../ahead/known-events.ts";
import { USUAL_RANGE_LEVEL, type RangeGrain } from "../ahead/settings.ts";
import type { Month } from "../calendar/month.ts";
import { measureOver } from "../compare/measure.ts";
import type { CellBook } from "../cube/cell-book.ts";
import { lastClosedMonth } from "../cube/coverage.ts";
import { EVERYTHING } from "../dimensions/scope.ts";
import type { Company } from "../frame/company.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { eventWords } from "../panels/expected-range/event-words.ts";
import type { Touched } from "./moved-figures.ts";

/** A KPI that came out of the ordinary with a load. */
export interface UnusualFigure {
  readonly kpi: string;
  /** "9 to 20 September FY27 below the range, lowest −4.1 σ; 15,300 passengers fewer than expected" */
  readonly words: string;
  /** The score farthest out. */
  readonly worst: number;
}

/** A KPI's history as it was read, to be judged. */
export interface WatchedKpi {
  readonly kpi: CompiledKpi;
  readonly grain: RangeGrain;
  /** The months that the load brought. */
  readonly months: readonly Month[];
  readonly placed: PlacedHistory;
}

/** At most so many KPIs are watched at a load, in the order of the library: more would keep the load waiting. */
const MOST_WATCHED = 60;

/**
 * The histories of the KPIs whose actuals a load brought, up to the last closed month: by day where the load is kept by
 * day, else by month.
 */
export function watchedKpis(
  company: Company,
  touched: readonly Touched[],
  isByDay: boolean,
  cells: CellBook,
): WatchedKpi[] {
  const { coverage, accounts, kpis } = company;
  const closed = lastClosedMonth(coverage);
  const actual = touched.find(({ scenario }) => coverage.scenarios.get(scenario)?.kind === "actual");
  if (closed === undefined || !actual) return [];
  const months = isByDay ? actual.months : actual.months.filter((month) => month === closed);
  if (months.length === 0) return [];
  const knownTo = isByDay ? Math.max(...months) : closed;
  const context = { ...company, cells, scope: EVERYTHING, access: EVERYTHING, knownTo };
  const grain = isByDay ? "day" : "month";
  return [...kpis.values()]
    .filter(({ formula }) =>
      formula.inputs.some(
        (input) =>
          input.kind === "account" && accounts.leaves.get(input.account)?.some((leaf) => actual.accounts.has(leaf)),
      ),
    )
    .slice(0, MOST_WATCHED)
    .flatMap((kpi) => {
      const placed = historyOf(kpi, grain, context, { measureOver });
      return placed ? [{ kpi, grain, months, placed }] : [];
    });
}

/** The events of a KPI that begin in the months that a load brought, without those that were dismissed. */
export function unusualFigures({ kpi, grain, months, placed }: WatchedKpi, company: Company): UnusualFigure[] {
  const { periods } = placed;
  const first = periods.findIndex(({ to }) => to >= Math.min(...months));
  if (first < 0) return [];
  const judged: Judged | { notFitted: string } = judgePlaced(placed, {
    grain,
    last: periods.length - first,
    level: USUAL_RANGE_LEVEL,
  });
  if ("notFitted" in judged) return [];
  const begun = judged.events.filter(({ from }) => from >= first);
  return begun.flatMap((event) => {
    const days = { from: daysOf(periods[event.from]!).from, to: daysOf(periods[event.to]!).to };
    const place = { kpi: kpi.definition.key, ...days, scope: EVERYTHING, at: null, isOfWhole: true };
    if (saidOf(place, company.knownEvents, company.dimensions)?.verdict === "dismissed") return [];
    const { key } = kpi.definition;
    return [{ kpi: key, words: eventWords(event, periods, [], kpi, "thousand"), worst: event.worst }];
  });
}
