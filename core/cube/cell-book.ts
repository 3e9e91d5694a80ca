import { scopeKey } from "../dimensions/step-scope.ts";
import type { Scope } from "../dimensions/scope.ts";
import type { Cell } from "./cell-source.ts";
import { tabulateCells, type CellTable } from "./cell-table.ts";

/** Cells that were read, by the scope and the day limit they were read with. */
export interface CellBook {
  /** The cells inside a scope; empty where nothing was read for it. */
  table(scope: Scope, throughDay: number | undefined): CellTable;
}

/** The place of a read in a book. */
export function bookKey(scope: Scope, throughDay: number | undefined): string {
  return `${throughDay ?? ""}${scopeKey(scope)}`;
}

/** Binds what was read into a book. */
export function bindCells(reads: ReadonlyMap<string, readonly Cell[]>): CellBook {
  const tables = new Map([...reads].map(([key, cells]) => [key, tabulateCells(cells)]));
  const empty = tabulateCells([]);
  // The same few scopes are asked for over and over: their keys are written once.
  const keys = new WeakMap<Scope, Map<number | undefined, string>>();
  return {
    table: (scope, throughDay) => {
      const known = keys.get(scope) ?? new Map<number | undefined, string>();
      keys.set(scope, known);
      const key = known.get(throughDay) ?? bookKey(scope, throughDay);
      known.set(throughDay, key);
      return tables.get(key) ?? empty;
    },
  };
}
