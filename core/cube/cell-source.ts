import { LAST_DAY } from "../calendar/days.ts";
import type { Month } from "../calendar/month.ts";
import type { Scope } from "../dimensions/scope.ts";

/** One scenario's months to read, both ends included. */
export interface ScenarioWindow {
  readonly scenario: string;
  readonly from: Month;
  readonly to: Month;
}

/** What a cell source is asked: sums by scenario, leaf account and month inside the scope. */
export interface CellQuery {
  readonly accounts: readonly string[];
  readonly windows: readonly ScenarioWindow[];
  readonly scope: Scope;
  /** Whether sums are taken apart by day; facts without one are left out. */
  readonly byDay?: true;
  /** A dimension: sums are taken apart by the member they were posted to. Facts without one are left out. */
  readonly by?: string;
}

/** The sum of one leaf account in one scenario and month, in whole minor units. */
export interface Cell {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  readonly amount: number;
  /** The day of the month, where the query asks for it. */
  readonly day?: number;
  /** The member it was posted to, where the query asks for it. */
  readonly member?: string;
}

/**
 * A question and its answer: for each of its windows accounts by rows, months by columns, 0 where nothing was posted.
 * By day a month has as many columns as the longest has days.
 */
export interface BookPage {
  readonly query: CellQuery;
  readonly grids: readonly Float64Array[];
}

/** Where sums come from. Implementations must give identical pages for identical queries. */
export interface CellSource {
  /** One page for each query, in the order asked; queries that belong together are best asked together. */
  pages(queries: readonly CellQuery[]): Promise<readonly BookPage[]>;
}

/** How many columns a month has in a page. */
export function columnsOf({ byDay }: Pick<CellQuery, "byDay">): number {
  return byDay ? LAST_DAY : 1;
}

/** Sets cells, which come in any order and may come in parts, into a page. */
export function pageOfCells(query: CellQuery, cells: readonly Cell[]): BookPage {
  const rowOf = new Map(query.accounts.map((account, row) => [account, row]));
  const columns = columnsOf(query);
  const grids = query.windows.map(
    ({ from, to }) => new Float64Array(query.accounts.length * Math.max(0, to - from + 1) * columns),
  );
  for (const { scenario, account, month, amount, day = 1 } of cells) {
    const row = rowOf.get(account);
    if (row === undefined) continue;
    query.windows.forEach((window, w) => {
      if (window.scenario !== scenario || month < window.from || month > window.to) return;
      const place = row * (window.to - window.from + 1) + month - window.from;
      grids[w]![place * columns + (query.byDay ? day - 1 : 0)]! += amount;
    });
  }
  return { query, grids };
}
