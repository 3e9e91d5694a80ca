import type { Column } from "./columns.tsx";
import type { KpiRow } from "#core/panels/parts/schema.ts";

/** Rows with a value first, in its order; those without keep theirs behind. */
export function sortRows(
  rows: readonly KpiRow[],
  { sortValue }: Pick<Column, "sortValue">,
  isDescending: boolean,
): KpiRow[] {
  return [...rows].sort((a, b) => {
    const [x, y] = [sortValue(a), sortValue(b)];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    return isDescending ? y - x : x - y;
  });
}
