import type { Month } from "../../calendar/month.ts";
import type { Scope } from "../../dimensions/scope.ts";
import { keyOfScope } from "../../dimensions/step-scope.ts";
import { getOrCreate } from "../../keyed.ts";
import type { CellBook, CellRead } from "../cell-book.ts";
import { cellOf, narrowDataset, type MemoryDataset, type NarrowedDataset, type SlotFilter } from "./memory-cells.ts";

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

/** The facts inside a scope and up to a day, with what was looked up of them: by scenario and account, month by month. */
interface MemoryView {
  readonly datasets: readonly NarrowedDataset[];
  readonly known: Map<number, Map<number, Float64Array>>;
}

/** A book over memory: everything is at hand, and each cell is added up once, when it is first looked up. */
export function openMemoryBook(datasets: readonly MemoryDataset[], numbers: MemoryNumbers): CellBook {
  const [first, last] = monthRange(datasets);
  const views = new Map<string, MemoryView>();
  const viewOf = ({ scope, throughDay }: CellRead): MemoryView => {
    const key = `${throughDay ?? ""}${keyOfScope(scope)}`;
    const known = views.get(key);
    if (known) return known;
    // Maps remember in which order they were filled: the view that was opened first goes.
    if (views.size >= MOST_VIEWS) views.delete(views.keys().next().value!);
    const view: MemoryView = {
      datasets: datasets.flatMap((dataset) => {
        const filters = numbers.filtersOf(dataset.id, scope);
        return filters ? [narrowDataset(dataset, filters, throughDay)] : [];
      }),
      known: new Map(),
    };
    views.set(key, view);
    return view;
  };
  return {
    made: new WeakMap(),
    sum: (read) => {
      const scenario = numbers.scenarios.get(read.scenario);
      if (scenario === undefined) return 0;
      const view = viewOf(read);
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
