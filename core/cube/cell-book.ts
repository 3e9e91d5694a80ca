import type { DayRange } from "../calendar/days.ts";
import type { Month } from "../calendar/month.ts";
import { keyOfScope, scopeKey } from "../dimensions/step-scope.ts";
import type { Scope } from "../dimensions/scope.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { columnsOf, type BookPage } from "./cell-source.ts";

/** One look-up: what accounts amount to in a scenario over months, inside a scope, on some days of each month. */
export interface CellRead {
  readonly scope: Scope;
  /** For daily facts: the days of each month that count; `undefined` where months are whole. */
  readonly days: DayRange | undefined;
  readonly scenario: string;
  /** Leaf accounts. */
  readonly accounts: readonly string[];
  readonly months: readonly Month[];
}

/** Where evaluating a formula finds its sums. */
export interface CellBook {
  /** Whole minor units; 0 where nothing was posted, which coverage says is meant. Throws an `UnreadCells` where it was never read. */
  sum(read: CellRead): number;
  /** Of a book that has all cells, and the same ones for ever: what was made of them. */
  readonly made?: Made;
}

/** What was made of a book's cells alone, by what it was made for: so it is made once. It goes when that goes. */
export type Made = WeakMap<object, unknown>;

/** What a book's cells give for something: made once where the book is whole. */
export function makeOnce<T>({ made }: CellBook, of: object, make: () => T): T {
  return made ? getOrCreate(made as WeakMap<object, T & {}>, of, make as () => T & {}) : make();
}

/** A look-up that no page of a book covers: never to be taken for 0. */
export class UnreadCells extends Error {
  constructor({ scenario, accounts, months, days, scope }: CellRead) {
    super(
      `Cells were looked up that were never read: ${scenario}, ${accounts.join(" ")}, months ${months.join(" ")}, days ${days ? `${days.from} to ${days.to}` : "all"}, in ${scopeKey(scope)}.`,
    );
    this.name = "UnreadCells";
  }
}

/** The place of a look-up in a book: its scope, and whether it is by day. */
export function bookKey(scope: Scope, isByDay: boolean): string {
  return `${isByDay ? "day" : ""}${keyOfScope(scope)}`;
}

/** A book that also tells, without throwing, whether it has what is looked up. */
export interface OpenBook extends CellBook {
  /** The sum; `undefined` where it was never read. */
  find(read: CellRead): number | undefined;
}

/** Binds pages into a book. What one page covers is looked up there; a look-up is never pieced together from several. */
export function bindPages(pages: readonly BookPage[]): OpenBook {
  const grids = new Map<string, Grid[]>();
  for (const page of pages)
    getOrCreate(grids, bookKey(page.query.scope, page.query.byDay === true), (): Grid[] => []).push(gridOf(page));
  const find = (read: CellRead): number | undefined => {
    if (read.accounts.length === 0 || read.months.length === 0) return 0;
    for (const grid of grids.get(bookKey(read.scope, read.days !== undefined)) ?? []) {
      const sum = sumIn(grid, read);
      if (sum !== undefined) return sum;
    }
    return undefined;
  };
  return {
    find,
    sum: (read) => {
      const sum = find(read);
      if (sum === undefined) throw new UnreadCells(read);
      return sum;
    },
  };
}

/** A page's amounts by scenario: accounts by rows, months by columns, or their days. */
interface Grid {
  /** Columns of a month. */
  readonly columns: number;
  readonly rowOf: ReadonlyMap<string, number>;
  readonly scenarios: ReadonlyMap<string, readonly MonthGrid[]>;
}

interface MonthGrid {
  readonly from: Month;
  readonly width: number;
  readonly amounts: Float64Array;
}

function gridOf({ query, grids }: BookPage): Grid {
  const scenarios = new Map<string, MonthGrid[]>();
  query.windows.forEach(({ scenario, from, to }, w) => {
    getOrCreate(scenarios, scenario, (): MonthGrid[] => []).push({ from, width: to - from + 1, amounts: grids[w]! });
  });
  return { columns: columnsOf(query), rowOf: new Map(query.accounts.map((account, row) => [account, row])), scenarios };
}

function sumIn(
  { columns, rowOf, scenarios }: Grid,
  { scenario, accounts, months, days }: CellRead,
): number | undefined {
  const grid = scenarios
    .get(scenario)
    ?.find(({ from, width }) => months.every((month) => month >= from && month < from + width));
  if (!grid) return undefined;
  let sum = 0;
  for (const account of accounts) {
    const row = rowOf.get(account);
    if (row === undefined) return undefined;
    for (const month of months) {
      const place = (row * grid.width + month - grid.from) * columns;
      const [first, last] = days ? [days.from - 1, days.to - 1] : [0, 0];
      for (let column = first; column <= last; column += 1) sum += grid.amounts[place + column]!;
    }
  }
  return sum;
}
