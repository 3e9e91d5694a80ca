import { describe, expect, it } from "vitest";
import { deltaStyle, valueStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutBreakdown } from "./layout.ts";
import type { BreakdownAnswer, BreakdownRow, BreakdownSeries } from "#core/panels/breakdown/schema.ts";

const none: Figure = { absent: "no data", detail: "Nothing is there." };
const MONEY = { kind: "money" } as const;
const figure = (value: number | null): Figure => (value === null ? none : { value });
const row = (
  name: string,
  actual: number | null,
  basis: number | null,
  parts: (number | null)[] = [],
): BreakdownRow => {
  const delta = figure(actual === null || basis === null ? null : actual - basis);
  return {
    member: { key: name, name, hasBelow: false, scope: {} },
    name,
    parts: parts.map(figure),
    row: {
      kpi: {
        key: "k",
        name: "Revenue",
        unit: MONEY,
        decimals: 0,
        direction: "higher",
        tolerance: { kind: "percent", percent: 1 },
        description: "",
      },
      actual: figure(actual),
      basis: figure(basis),
      basisName: "Budget",
      basisCode: "budget",
      isFallback: false,
      attainment: none,
      words: "",
      status: null,
      priorYear: null,
      growth: null,
      toDate: null,
      outlook: null,
      outside: null,
      trend: [],
      notes: [],
      variance: {
        delta,
        deltaPercent: "value" in delta && basis ? { value: delta.value / Math.abs(basis) } : none,
        judgement: "value" in delta ? (delta.value < 0 ? "unfavourable" : "favourable") : null,
        tolerances: "value" in delta ? Math.sign(delta.value) * 3 : null,
      },
    },
  };
};
const answer = (rows: readonly BreakdownRow[], change: Partial<BreakdownAnswer> = {}): BreakdownAnswer => ({
  kind: "breakdown",
  frame: {} as BreakdownAnswer["frame"],
  kpi: row("", 0, 0).row.kpi,
  headline: "",
  descriptor: "",
  layers: [],
  by: { dimension: "route", level: "route", path: [] },
  order: "value",
  isReversed: false,
  top: null,
  shows: ["basis", "delta", "delta-percent", "total"],
  series: [],
  stacking: "clustered",
  rows,
  others: null,
  total: { ...row("All routes", 100, 90), member: null },
  absent: [],
  notes: [],
  ...change,
});
const sumOf = (rows: readonly BreakdownRow[]) => {
  const sum = (values: readonly Figure[]) => values.reduce((all, f) => all + ("value" in f ? f.value : 0), 0);
  return row("All routes", sum(rows.map((r) => r.row.actual)), sum(rows.map((r) => r.row.basis)));
};
const SERIES: BreakdownSeries[] = [0, 1, 2].map((at) => ({ key: `s${at}`, name: `S${at}`, at }));
const layout = (data: BreakdownAnswer, width: number) =>
  layoutBreakdown({ data, width, style: valueStyle(MONEY, 0, "units"), deltaStyle: deltaStyle(MONEY, 0, "units") });

const long = "A name of sixty letters that nobody would give to any route, but";
const CASES: readonly (readonly [string, readonly BreakdownRow[]])[] = [
  ["one", [row("One", 5, 4)]],
  ["none", []],
  ["all negative", [row("A", -5, -9), row("B", -700, -3)]],
  ["mixed signs", [row("A", 500, 900), row("B", -700, -3), row("C", 0, 1)]],
  ["a giant outlier", [row("A", 1e12, 1), row("B", 3, 1e6)]],
  ["sixty members", Array.from({ length: 60 }, (_, i) => row(`Member ${i}`, i * 13, 400))],
  ["names of sixty letters", [row(long, 40, 30), row(`${long}!`, 20, 30)]],
  ["absent values and no basis", [row("A", null, 4), row("B", 4, null), row("C", 3, 0)]],
  ["tiny and huge", [row("A", 0.001, 0.002), row("B", 1e12, 1e12)]],
  ["all equal", [row("A", 7, 7), row("B", 7, 7)]],
  ["all below", [row("A", 7, 70_000), row("B", 5, 60_000)]],
  ["all zero", [row("A", 0, 0), row("B", 0, 0)]],
];

describe("a breakdown's layout", () => {
  describe.each([240, 380, 620, 1600])("%i px wide", (width) => {
    it.each(CASES)("keeps every mark and label of %s inside, and bars on their zero", (_, rows) => {
      for (const change of [{}, { others: { ...row("The other 4", 9, 8), member: null, count: 4 } }]) {
        const total = { ...sumOf(rows), member: null };
        const { lines, zero, height, deltaZero } = layout(answer(rows, { ...change, total }), width);
        for (const { segments, value, delta, percent, basis, band, name } of lines) {
          for (const box of [...segments, ...(delta?.box ? [delta.box] : [])]) {
            expect([box.x, box.y, box.width, box.height].every(Number.isFinite)).toBe(true);
            expect(box.x).toBeGreaterThanOrEqual(-0.01);
            expect(box.x + box.width).toBeLessThanOrEqual(width + 0.01);
            expect(box.y).toBeGreaterThanOrEqual(band.y);
            expect(box.y + box.height).toBeLessThanOrEqual(band.y + band.height);
          }
          for (const { x, width: w } of segments)
            expect(Math.min(Math.abs(x - zero), Math.abs(x + w - zero))).toBeLessThan(0.01);
          if (delta?.box)
            expect(
              Math.min(Math.abs(delta.box.x - deltaZero!), Math.abs(delta.box.x + delta.box.width - deltaZero!)),
            ).toBeLessThan(0.8);
          if (basis) expect(Number.isFinite(basis.x)).toBe(true);
          expect(labelWidth(name)).toBeLessThanOrEqual(Math.max(46, width * 0.32) + 7);
          for (const label of [value, ...segments.map((segment) => segment.label)]) {
            if (!label) continue;
            const end = label.anchor === "start" ? label.x + labelWidth(label.text) : label.x;
            expect(end).toBeLessThanOrEqual(width + 1);
          }
          const deltaEnd = !delta || delta.anchor === "end" ? (delta?.x ?? 0) : delta.x + labelWidth(delta.text);
          expect(deltaEnd).toBeLessThanOrEqual(width + 1);
          expect(percent?.text ?? "").not.toMatch(/NaN|Infinity/);
          expect(band.y + band.height).toBeLessThanOrEqual(height);
        }
      }
    });
  });
  it("gives each bar of a cluster its own figure, and none the figure of all together", () => {
    const rows = [row("A", 600, 500, [100, 200, 300]), row("B", 90, 100, [50, 40, null])];
    const byMember = SERIES.map((one) => ({ ...one, dimension: "service", members: [one.key] }));
    const split = layout(answer(rows, { series: byMember, total: { ...sumOf(rows), member: null } }), 620);
    expect(split.lines.map(({ segments }) => segments.map(({ label }) => label!.text))).toEqual([
      ["100", "200", "300"],
      ["50", "40"],
      [],
    ]);
    // What the parts make together stands in a column of its own, right of every bar and its figure.
    expect(split.lines.map(({ value }) => value!.text)).toEqual(["600", "90", "690"]);
    for (const { segments, value } of split.lines) {
      expect([value!.x, value!.anchor]).toEqual([split.heads.total, "end"]);
      for (const { label } of segments)
        expect(label!.x + labelWidth(label!.text)).toBeLessThan(value!.x - labelWidth(value!.text));
    }
    // Of scenarios or KPIs beside each other the line's figure is one of theirs.
    const besides = layout(answer(rows, { series: SERIES }), 620);
    expect([besides.heads.total, besides.lines[0]!.value]).toEqual([null, null]);
    const stacked = layout(answer(rows, { series: byMember, stacking: "stacked" }), 620);
    expect(stacked.lines[0]!.value!.text).toBe("600");
    expect(stacked.lines[0]!.segments.every(({ label }) => label === null)).toBe(true);
  });
  it("makes Δ give way where the panel is narrow, and leaves no empty columns where nothing is compared", () => {
    const rows = [row("A", 500, 400), row("B", 300, 350)];
    const heads = (data: BreakdownAnswer, width: number) => {
      const { heads: found } = layout(data, width);
      return [found.delta !== null, found.percent !== null];
    };
    expect(heads(answer(rows), 700)).toEqual([true, true]);
    expect(heads(answer(rows), 400)).toEqual([true, false]);
    expect(heads(answer(rows), 300)).toEqual([false, false]);
    expect(heads(answer(rows.map(({ name }) => row(name, 5, null))), 700)).toEqual([false, false]);
  });
  it("stands parts beside each other, on top of each other, or as shares that fill the plot", () => {
    const rows = [row("A", 60, 50, [10, 20, 30]), row("B", 6, 5, [1, null, 5])];
    const segments = (stacking: BreakdownAnswer["stacking"]) =>
      layout(answer(rows, { series: SERIES, stacking }), 700).lines[0]!.segments;
    const beside = segments("clustered");
    expect(new Set(beside.map(({ y }) => y)).size).toBe(3);
    const onTop = segments("stacked");
    for (const [i, segment] of onTop.entries())
      if (i > 0) expect(segment.x).toBeCloseTo(onTop[i - 1]!.x + onTop[i - 1]!.width, 5);
    const widths = (own: readonly { width: number }[]) => own.reduce((sum, { width }) => sum + width, 0);
    const shares = layout(answer(rows, { series: SERIES, stacking: "share" }), 700).lines;
    expect(widths(shares[0]!.segments)).toBeCloseTo(widths(shares[1]!.segments), 5);
    expect(shares[1]!.segments.map(({ series }) => series)).toEqual([0, 2]);
  });
});
