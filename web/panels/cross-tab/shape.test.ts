import { describe, expect, it } from "vitest";
import { labelWidth } from "../../chart-kit/labels.ts";
import { judgementAt, shapeCrossTab, writeMeasure } from "./shape.ts";
import type { CrossMeasure, CrossColumn, CrossSide, CrossTabAnswer } from "#core/panels/cross-tab/schema.ts";

const side = (noun: string, count: number, name: (i: number) => string, hasTotal = true): CrossSide => ({
  axes: [
    {
      kind: "member",
      noun,
      dimension: noun,
      totalName: `All ${noun}s`,
      hasTotal,
      entries: Array.from({ length: count }, (_, i) => ({
        key: `${noun}-${i}`,
        name: name(i),
        member: null,
        kpi: null,
        scenario: null,
        months: null,
      })),
    },
  ],
  lines: [...Array.from({ length: count }, (_, i) => [i]), ...(hasTotal ? [[null]] : [])],
});
const answer = (
  rows: CrossSide,
  columns: CrossSide,
  of: (row: number, column: number) => number | null,
  measures: readonly CrossMeasure[] = ["value"],
): CrossTabAnswer => ({
  kind: "cross-tab",
  frame: { unit: "units" } as CrossTabAnswer["frame"],
  headline: "",
  descriptor: "",
  layers: [],
  kpis: [
    { key: "revenue", name: "Revenue", unit: { kind: "money" }, decimals: 0, direction: "higher" },
  ] as unknown as CrossTabAnswer["kpis"],
  basisName: "Budget",
  months: "2026-10",
  scope: null,
  path: [],
  measures,
  shade: "value",
  sort: null,
  rows,
  columns,
  cells: columns.lines.map((_, c): CrossColumn => {
    const values = rows.lines.map((__, r) => of(r, c));
    const figures = { values, why: values.map((value) => (value === null ? 1 : 0)) };
    return {
      figures: Object.fromEntries(measures.map((measure) => [measure, figures])),
      tolerances: values.map((value) => (value === null ? null : Math.sign(value) * 3)),
    };
  }),
  reasons: ["Nothing is there."],
  refusal: null,
  notes: [],
});
const long = "A name of sixty letters that nobody would give to any route, no";
const short = (i: number) => `Name ${i}`;
const CASES: readonly (readonly [string, CrossTabAnswer])[] = [
  ["one cell", answer(side("route", 1, short, false), side("month", 1, short, false), () => 5)],
  ["none", answer(side("route", 0, short, false), side("month", 0, short, false), () => null)],
  ["all negative", answer(side("route", 3, short), side("month", 4, short), (r, c) => -r - c - 1)],
  ["mixed signs", answer(side("route", 3, short), side("month", 4, short), (r, c) => r - c)],
  ["a giant outlier", answer(side("route", 9, short), side("month", 2, short), (r) => (r === 4 ? 1e12 : r))],
  ["400 rows", answer(side("route", 400, short), side("month", 2, short), (r) => r)],
  [
    "60 names of 60 letters",
    answer(
      side("route", 60, () => long),
      side("month", 12, () => long),
      (r) => r,
    ),
  ],
  ["absent values", answer(side("route", 4, short), side("month", 3, short), (r, c) => ((r + c) % 2 ? null : r))],
  ["tiny and huge", answer(side("route", 2, short), side("month", 2, short), (r) => [0.001, 1e12, 3][r]!)],
  ["all equal", answer(side("route", 3, short), side("month", 3, short), () => 7)],
];

describe("a cross-tab's shape", () => {
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    it.each(CASES)("has room for every figure of %s, and leaves some to them beside the names", (_, data) => {
      const { nameWidths, columns, rows } = shapeCrossTab(data, width);
      expect(nameWidths.reduce((sum, own) => sum + own, 0)).toBeLessThanOrEqual(Math.max(64, width / 2));
      expect(columns).toHaveLength(data.columns.lines.length);
      // What fits takes the room it has, and no more.
      const wanted = [...nameWidths, ...columns.map((own) => own.width)].reduce((sum, own) => sum + own, 0);
      const narrow = shapeCrossTab(data, 1);
      const least = [...narrow.nameWidths, ...narrow.columns.map((own) => own.width)].reduce((a, b) => a + b, 0);
      expect(wanted).toBeLessThanOrEqual(Math.max(width, least + Math.max(64, width / 2)));
      if (least < width / 1.5) expect(wanted).toBeGreaterThan(least);
      expect(rows).toHaveLength(data.rows.lines.length);
      for (const { column, measure: shown, width: own } of columns)
        for (const value of data.cells[column]!.figures[shown]!.values)
          if (value !== null)
            expect(labelWidth(writeMeasure(shown, value, data.kpis[0]!, data))).toBeLessThanOrEqual(own);
    });
  });
  it("shades by value over the members, and not over totals", () => {
    const data = answer(side("route", 3, short), side("month", 2, short), (r) => (r === 3 ? 60 : r * 10));
    expect(shapeCrossTab(data, 600).scales.get("revenue")).toEqual({ low: 0, high: 20 });
  });
  it("says a group once, and again where a new one begins", () => {
    const rows: CrossSide = {
      axes: [side("area", 2, short).axes[0]!, side("route", 3, (i) => `Route ${i}`).axes[0]!],
      lines: [
        [0, 0],
        [0, 1],
        [0, null],
        [1, 2],
        [null, null],
      ],
    };
    const { rows: shaped } = shapeCrossTab(
      answer(rows, side("month", 1, short), () => 1),
      800,
    );
    expect(shaped.map(({ names }) => names)).toEqual([
      ["Name 0", "Route 0"],
      [null, "Route 1"],
      [null, "All routes"],
      ["Name 1", "Route 2"],
      ["All areas", ""],
    ]);
    expect(shaped.map(({ isTotal }) => isTotal)).toEqual([false, false, true, false, true]);
  });
  it("judges by whole tolerances and the KPI's direction, and writes each measure in its own way", () => {
    const data = answer(side("route", 2, short, false), side("month", 1, short, false), (r) => (r === 0 ? 5 : -5), [
      "delta",
    ]);
    expect([judgementAt(data, 0, 0), judgementAt(data, 1, 0)]).toEqual(["favourable", "unfavourable"]);
    const write = (measure: CrossMeasure, value: number) => writeMeasure(measure, value, data.kpis[0]!, data);
    expect([write("delta", -5), write("delta-percent", 0.0312), write("share-of-row", 0.25), write("rank", 2)]).toEqual(
      ["−5", "+3.1%", "25.0%", "2"],
    );
  });
});
