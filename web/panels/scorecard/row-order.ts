import type { KpiRow } from "#core/panels/parts/kpi-row.ts";
import type { Column } from "./columns.tsx";

/** All rows share one zero line and one scale; a single outlier must not flatten the rest. */
export function beadLimit(rows: readonly KpiRow[]): number {
  const sizes = rows
    .flatMap((r) =>
      "value" in r.variance.deltaPercent && r.kpi.unit.kind !== "percent"
        ? Math.abs(r.variance.deltaPercent.value)
        : [],
    )
    .sort((a, b) => a - b);
  const typical = sizes[Math.floor(sizes.length * 0.9)] ?? 0;
  return Math.max(0.02, Math.min(sizes.at(-1) ?? 0, typical * 2));
}

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
