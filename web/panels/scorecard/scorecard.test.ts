import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { moveKpi } from "./move-kpi.ts";
import { COLUMNS } from "./columns.tsx";
import { columnsAfter, stepsForRoom, stepsOf } from "./giving-way.ts";
import { sortRows } from "./row-order.ts";
import { SCORECARD_COLUMNS } from "#core/panels/scorecard/schema.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

describe("sorting", () => {
  const rows = (values: readonly (number | null)[]) => values.map((value, i) => ({ value, i })) as unknown as KpiRow[];
  const column = { sortValue: (row: KpiRow) => (row as unknown as { value: number | null }).value };
  it("puts values in order, those without behind, and equal ones as they were", () => {
    fc.assert(
      fc.property(fc.array(fc.option(fc.integer({ min: -3, max: 3 }))), fc.boolean(), (values, isDescending) => {
        const sorted = sortRows(rows(values), column, isDescending) as unknown as { value: number | null; i: number }[];
        expect(sorted.map((r) => r.i).sort((a, b) => a - b)).toEqual(values.map((_, i) => i));
        for (const [i, row] of sorted.entries()) {
          const next = sorted[i + 1];
          if (!next) continue;
          if (row.value === null) expect(next.value).toBeNull();
          else if (next.value !== null)
            expect(isDescending ? row.value >= next.value : row.value <= next.value).toBe(true);
          if (row.value === next.value) expect(row.i).toBeLessThan(next.i);
        }
      }),
    );
  });
});

describe("columns that do not fit", () => {
  const columns = COLUMNS.filter(({ key }) => ["actual", "delta-percent", "status", "trend"].includes(key));
  it("go in a set order, and only those that are there take a step", () => {
    expect(stepsOf(columns)).toEqual(["trend", "status", "delta-percent"]);
    const keys = (steps: number) => columnsAfter(columns, steps).columns.map((c) => c.key);
    expect(keys(0)).toEqual(["actual", "delta-percent", "status", "trend"]);
    expect(keys(1)).toEqual(["actual", "delta-percent", "status"]);
    // A status loses its word before Δ% goes.
    expect([keys(2), columnsAfter(columns, 2).isStatusShort]).toEqual([["actual", "delta-percent", "status"], true]);
    expect(keys(3)).toEqual(["actual", "status"]);
    expect(columnsAfter(columns, 3).leftOut.map((c) => c.key)).toEqual(["trend", "delta-percent"]);
  });
});

describe("how many columns give way at once", () => {
  const order = ["trend", "prior-year", "status", "delta-percent"] as const;
  const widths = { trend: 100, "prior-year": 60, status: 90, "delta-percent": 70 };
  const steps = (taken: number, room: number) => stepsForRoom(order, widths, taken, room);
  it("goes by how wide they are; of a status its mark stays", () => {
    expect([steps(0, 1), steps(0, 100), steps(0, 101), steps(0, 160)]).toEqual([1, 1, 2, 2]);
    // 100 + 60 and what the status' word takes of its 90.
    expect([steps(0, 210), steps(0, 220)]).toEqual([3, 4]);
    expect(steps(1, 61)).toBe(3);
  });
  it("is all of them where no number is enough", () => {
    expect(steps(0, 10_000)).toBe(4);
  });
});

describe("moving a KPI", () => {
  const groups = [
    { title: "A", kpis: ["a", "b"] },
    { title: "B", kpis: ["c"] },
  ];
  it("goes by one place, and over into the next group at an end", () => {
    expect(moveKpi(groups, 0, 0, 1)[0]!.kpis).toEqual(["b", "a"]);
    expect(moveKpi(groups, 0, 1, 1).map((g) => g.kpis)).toEqual([["a"], ["b", "c"]]);
    expect(moveKpi(groups, 1, 0, -1).map((g) => g.kpis)).toEqual([["a", "b", "c"], []]);
  });
});

it("every column that can be asked for can be drawn", () => {
  expect(COLUMNS.map((c) => c.key)).toEqual([...SCORECARD_COLUMNS]);
});
