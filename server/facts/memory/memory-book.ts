import type { CellBook } from "#core/cube/cell-book.ts";
import { openMemoryBook } from "#core/cube/memory/memory-book.ts";
import type { SlotFilter } from "#core/cube/memory/memory-cells.ts";
import type { Structure } from "#server/db/structure.ts";
import type { KeptFacts } from "./cell-keeper.ts";
import { withDescendants } from "#core/dimensions/member-tree.ts";

/** A book over facts in memory: the one there was, with all that was added up in it, where nothing it reads by changed. */
export function bookOn(
  before: { readonly structure: Structure; readonly kept: KeptFacts; readonly book: CellBook } | undefined,
  structure: Structure,
  kept: KeptFacts,
): CellBook {
  const isSame = before?.kept === kept && before.structure.ids === structure.ids;
  return isSame && before.structure.dimensions === structure.dimensions ? before.book : bookOf(structure, kept);
}

/** A book over the facts that are kept in memory, in the same state as the structure. */
export function bookOf(structure: Structure, { datasets }: KeptFacts): CellBook {
  const { ids, dimensions } = structure;
  const keptOf = new Map(datasets.map(({ id, slots }) => [id, slots]));
  const slotsOf = new Map([...ids.datasets].map(([key, id]) => [id, ids.slots.get(key)!]));
  return openMemoryBook(datasets, {
    scenarios: ids.scenarios,
    accounts: ids.accounts,
    filtersOf: (dataset, scope) => {
      const filters: SlotFilter[] = [];
      for (const dimension of dimensions) {
        const chosen = scope[dimension.key];
        if (!chosen) continue;
        const slot = keptOf.get(dataset)!.indexOf(slotsOf.get(dataset)?.get(dimension.key) ?? 0);
        // Nothing of the dataset is kept by the dimension, so nothing of it is in the scope.
        if (slot < 0) return null;
        const own = ids.members.get(dimension.key)!;
        filters.push({ slot, members: withDescendants(dimension, chosen).map((key) => own.get(key)!) });
      }
      return filters;
    },
  });
}
