import { LAST_DAY, type DayRange } from "../../calendar/days.ts";
import type { Month } from "../../calendar/month.ts";
import type { Scope } from "../../dimensions/scope.ts";
import { keyOfScope } from "../../dimensions/step-scope.ts";
import { getOrCreate } from "../../collections/keyed.ts";
import type { CellBook, CellRead } from "../cell-book.ts";
import {
  addDays,
  cellOf,
  narrowDataset,
  type MemoryDataset,
  type NarrowedDataset,
  type SlotFilter,
} from "./memory-cells.ts";

/** What stands behind the keys of a look-up. */
export interface MemoryNumbers {
  readonly scenarios: ReadonlyMap<string, number>;
  readonly accounts: ReadonlyMap<string, number>;
  /** What a dataset's slots must hold inside a scope; `null` where nothing of it is in the scope. */
  filtersOf(dataset: number, scope: Scope): readonly SlotFilter[] | null;
}

/** So many scopes keep what was looked up of them; a scope takes some hundred kilobytes. */
const MOST_VIEWS = 128;

/** A cell that was not looked up yet. */
const UNKNOWN = Number.NaN;

/** The facts inside a scope, with what was looked up of them. */
interface MemoryView {
  readonly datasets: readonly NarrowedDataset[];
  /** By scenario and account, month by month. */
  readonly known: Map<number, Map<number, Float64Array>>;
  /** By scenario, account and month, day by day. */
  readonly knownDays: Map<number, Map<number, Map<Month, Float64Array>>>;
}

/** A book over memory: everything is at hand, and each cell is added up once, when it is first looked up. */
export function openMemoryBook(datasets: readonly MemoryDataset[], numbers: MemoryNumbers): CellBook {
  const [first, last] = monthRange(datasets);
  const views = new Map<string, MemoryView>();
  const viewOf = ({ scope }: CellRead): MemoryView => {
    const key = keyOfScope(scope);
    const known = views.get(key);
    if (known) return known;
    // Maps remember in which order they were filled: the view that was opened first goes.
    if (views.size >= MOST_VIEWS) views.delete(views.keys().next().value!);
    const view: MemoryView = {
      datasets: datasets.flatMap((dataset) => {
        const filters = numbers.filtersOf(dataset.id, scope);
        return filters ? [narrowDataset(dataset, filters)] : [];
      }),
      known: new Map(),
      knownDays: new Map(),
    };
    views.set(key, view);
    return view;
  };
  /** What a month's account amounts to on each of its days. */
  const daysOf = (view: MemoryView, scenario: number, account: number, month: Month): Float64Array => {
    const byAccount = getOrCreate(view.knownDays, scenario, () => new Map<number, Map<Month, Float64Array>>());
    const byMonth = getOrCreate(byAccount, account, () => new Map<Month, Float64Array>());
    return getOrCreate(byMonth, month, () => {
      const sums = new Float64Array(LAST_DAY);
      for (const dataset of view.datasets) addDays(dataset, { scenario, account, month }, sums);
      return sums;
    });
  };
  const sumOfDays = (view: MemoryView, scenario: number, { accounts, months }: CellRead, days: DayRange): number => {
    let sum = 0;
    for (const key of accounts) {
      const account = numbers.accounts.get(key);
      if (account === undefined) continue;
      for (const month of months) {
        if (month < first || month > last) continue;
        const sums = daysOf(view, scenario, account, month);
        for (let day = days.from; day <= days.to; day += 1) sum += sums[day - 1]!;
      }
    }
    return sum;
  };
  return {
    made: new WeakMap(),
    sum: (read) => {
      const scenario = numbers.scenarios.get(read.scenario);
      if (scenario === undefined) return 0;
      const view = viewOf(read);
      if (read.days) return sumOfDays(view, scenario, read, read.days);
      const byAccount = getOrCreate(view.known, scenario, () => new Map<number, Float64Array>());
      let sum = 0;
      for (const key of read.accounts) {
        const account = numbers.accounts.get(key);
        if (account === undefined) continue;
        const known = getOrCreate(byAccount, account, () => new Float64Array(last - first + 1).fill(UNKNOWN));
        for (const month of read.months) {
          if (month < first || month > last) continue;
          let cell = known[month - first]!;
          if (Number.isNaN(cell)) {
            cell = 0;
            for (const dataset of view.datasets) cell += cellOf(dataset, { scenario, account, month });
            known[month - first] = cell;
          }
          sum += cell;
        }
      }
      return sum;
    },
  };
}

/** The first and last month that has facts; the last lies before the first where there are none. */
function monthRange(datasets: readonly MemoryDataset[]): [first: Month, last: Month] {
  let [first, last] = [Infinity, -Infinity];
  for (const { blocks } of datasets)
    for (const { month } of blocks.values()) {
      first = Math.min(first, month);
      last = Math.max(last, month);
    }
  return first <= last ? [first, last] : [0, -1];
}
