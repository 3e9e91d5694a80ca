import type { WireEffect } from "#contract/intake.ts";
import type { ShownRow } from "./rows-table.tsx";

/** The rows a step changed, cell by cell, under the columns it leaves; dropped rows stay, struck through. */
export function changedRows(effect: WireEffect, columnsBefore: readonly string[]): ShownRow[] {
  return effect.examples.flatMap(({ line, before, after }): ShownRow[] => {
    const cellBefore = (column: string) => before[columnsBefore.indexOf(column)];
    if (after.length === 0) {
      return [{ line, cells: effect.columns.map((column) => cellBefore(column) ?? ""), mark: "dropped" }];
    }
    return after.map((cells) => ({
      line,
      cells,
      was: effect.columns.map((column, i) => {
        const former = cellBefore(column);
        if (former === undefined) return cells[i] === "" ? null : "";
        return former === cells[i] ? null : former;
      }),
    }));
  });
}
