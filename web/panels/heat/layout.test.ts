import { describe, expect, it } from "vitest";
import { deltaStyle, valueStyle } from "#core/formats/number-words.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutHeat } from "./layout.ts";
import type { HeatAnswer, HeatCell } from "#core/panels/heat/schema.ts";

const MONEY = { kind: "money" } as const;
const none = { absent: "no data", detail: "Nothing is there." } as const;
const cell = (value: number | null, basis: number | null = null): HeatCell => {
  const delta = value === null || basis === null ? null : value - basis;
  return {
    actual: value === null ? none : { value },
    variance: {
      delta: delta === null ? none : { value: delta },
      deltaPercent: delta === null || !basis ? none : { value: delta / Math.abs(basis) },
      judgement: delta === null ? null : delta === 0 ? "on plan" : delta > 0 ? "favourable" : "unfavourable",
      tolerances: null,
    },
    months: "2026-10",
  };
};
const side = (count: number, name: (i: number) => string) => ({
  entries: Array.from({ length: count }, (_, i) => ({ key: String(i), name: name(i), member: null })),
  noun: "month",
  dimension: null,
});
const answer = (cells: readonly (readonly HeatCell[])[], change: Partial<HeatAnswer> = {}): HeatAnswer => ({
  kind: "heat",
  frame: {} as HeatAnswer["frame"],
  kpi: { unit: MONEY } as HeatAnswer["kpi"],
  headline: "",
  descriptor: "",
  basisName: "Budget",
  shade: "value",
  rows: side(cells.length, (i) => `Row ${i}`),
  columns: side(cells[0]?.length ?? 0, (i) => `Column ${i}`),
  cells,
  refusal: null,
  notes: [],
  ...change,
});
const layout = (data: HeatAnswer, width: number) =>
  layoutHeat({
    data,
    width,
    style: valueStyle(MONEY, 0, "units"),
    deltaStyle: deltaStyle(MONEY, 0, "units"),
    hasLabels: true,
  });
const grid = (rows: number, columns: number, of: (i: number) => HeatCell) =>
  Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (__, c) => of(r * columns + c)));
const long = "A name of sixty letters that nobody would give to any vessel, no";
const CASES: readonly (readonly [string, HeatAnswer])[] = [
  ["one cell", answer([[cell(5, 4)]])],
  ["none", answer([])],
  ["all negative", answer(grid(3, 4, (i) => cell(-i - 1, -9)))],
  ["mixed signs", answer(grid(3, 4, (i) => cell((i % 3) - 1, 0)))],
  ["a giant outlier", answer(grid(4, 7, (i) => cell(i === 3 ? 1e12 : i, 5)))],
  ["400 columns", answer(grid(2, 400, (i) => cell(i, 7)))],
  [
    "60 rows with names of 60 letters",
    answer(
      grid(60, 12, (i) => cell(i, i)),
      { rows: side(60, () => long) },
    ),
  ],
  ["absent values", answer(grid(2, 3, (i) => cell(i % 2 ? null : i)))],
  ["tiny and huge", answer(grid(2, 2, (i) => cell([0.001, 1e12, 3, 0][i]!, 1)))],
  ["all equal", answer(grid(2, 2, () => cell(7, 7)))],
];

describe("a heat grid's layout", () => {
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    it.each(CASES)("places every cell of %s once, with labels that fit and shades in range", (_, data) => {
      for (const shade of ["value", "delta-percent", "judgement"] as const) {
        const { cells, columns, rows, height } = layout({ ...data, shade }, width);
        expect(cells).toHaveLength(data.cells.flat().length);
        for (const { box, strength, label } of cells) {
          expect(box.y + box.height).toBeLessThanOrEqual(height);
          if (strength !== null) {
            expect(strength).toBeGreaterThanOrEqual(0);
            expect(strength).toBeLessThanOrEqual(1);
          }
          if (label !== null) expect(labelWidth(label)).toBeLessThanOrEqual(box.width);
          if (cells.length < 100) expect(box.x + box.width).toBeLessThanOrEqual(width + 0.01);
        }
        for (const [i, { x, name }] of columns.entries()) {
          const next = columns[i + 1];
          if (next) expect(x + labelWidth(name) / 2).toBeLessThanOrEqual(next.x - labelWidth(next.name) / 2);
        }
        for (const { name } of rows) expect(labelWidth(name)).toBeLessThanOrEqual(Math.max(46, width * 0.3) + 7);
      }
    });
  });
  it("shades by value from the least to the most, by Δ% by how far off, each in the colour of its judgement", () => {
    const data = answer([[cell(0, 10), cell(5, 5), cell(10, 8)]]);
    expect(layout(data, 600).cells.map(({ strength, tone }) => [strength, tone])).toEqual([
      [0, "value"],
      [0.5, "value"],
      [1, "value"],
    ]);
    expect(
      layout({ ...data, shade: "delta-percent" }, 600).cells.map(({ strength, tone, label }) => [
        strength,
        tone,
        label,
      ]),
    ).toEqual([
      [1, "unfavourable", "−100.0%"],
      [0, "even", "0.0%"],
      [0.25, "favourable", "+25.0%"],
    ]);
  });
});
