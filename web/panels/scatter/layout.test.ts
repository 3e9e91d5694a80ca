import { describe, expect, it } from "vitest";
import { fittedLine } from "#core/statistics/fitted-line.ts";
import { valueStyle } from "#core/formats/number-words.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutScatter } from "./layout.ts";
import type { ScatterAnswer } from "#core/panels/scatter/schema.ts";

const answer = (
  pairs: readonly (readonly [number, number, number?])[],
  name = (i: number) => `Point ${i}`,
): ScatterAnswer => ({
  kind: "scatter",
  frame: {} as ScatterAnswer["frame"],
  x: {} as ScatterAnswer["x"],
  y: {} as ScatterAnswer["y"],
  size: pairs.some(([, , size]) => size !== undefined) ? ({} as ScatterAnswer["x"]) : null,
  headline: "",
  descriptor: "",
  noun: "route",
  dimension: null,
  path: [],
  points: pairs.map(([x, y, size], i) => ({
    key: String(i),
    name: name(i),
    member: null,
    months: null,
    x: { value: x },
    y: { value: y },
    size: size === undefined ? null : { value: size },
  })),
  line: fittedLine(pairs.map(([x, y]) => ({ x, y }))),
  quadrants: pairs.length > 0 ? { x: pairs[0]![0], y: pairs[0]![1], at: "mean" } : null,
  absent: [],
  notes: [],
});
const style = valueStyle({ kind: "money" }, 0, "units");
const long = "A name of sixty letters that nobody would give to any route, not";
const CASES: readonly (readonly [string, ScatterAnswer])[] = [
  ["one", answer([[5, 4]])],
  ["none", answer([])],
  [
    "all negative",
    answer([
      [-5, -9],
      [-700, -3],
      [-2, -8],
    ]),
  ],
  [
    "mixed signs and sizes",
    answer([
      [500, -900, 3],
      [-700, 3, 40],
      [0, 1, 0],
    ]),
  ],
  [
    "a giant outlier",
    answer([
      [1, 2],
      [2, 3],
      [1e12, 3],
    ]),
  ],
  [
    "60 points with names of 60 letters",
    answer(
      Array.from({ length: 60 }, (_, i) => [i, (i * 7) % 11] as const),
      () => long,
    ),
  ],
  ["400 points in one place", answer(Array.from({ length: 400 }, () => [3, 3] as const))],
  [
    "tiny and huge",
    answer([
      [0.001, 1e12],
      [3, 0.002],
      [1e12, 4],
    ]),
  ],
  [
    "a steep line",
    answer([
      [1, 1],
      [1.001, 5000],
      [1.002, 10_000],
    ]),
  ],
];

describe("a scatter's layout", () => {
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    it.each(CASES)("keeps every point, label and line of %s inside, and no name over another", (_, data) => {
      const { points, plot, line, xTicks, yTicks } = layoutScatter({
        data,
        width,
        height: 320,
        xStyle: style,
        yStyle: style,
      });
      const right = plot.x + plot.width;
      for (const { cx, cy, r } of points) {
        expect([cx, cy, r].every(Number.isFinite)).toBe(true);
        expect(cx - r).toBeGreaterThanOrEqual(plot.x - 0.01);
        expect(cx + r).toBeLessThanOrEqual(right + 0.01);
        expect(cy - r).toBeGreaterThanOrEqual(plot.y - 0.01);
        expect(cy + r).toBeLessThanOrEqual(plot.y + plot.height + 0.01);
      }
      const boxes = points.flatMap(({ label }) => {
        if (!label) return [];
        const w = labelWidth(label.text);
        return [{ from: label.anchor === "start" ? label.x : label.x - w, w, y: label.y }];
      });
      for (const [i, a] of boxes.entries()) {
        expect(a.from).toBeGreaterThanOrEqual(plot.x - 0.01);
        expect(a.from + a.w).toBeLessThanOrEqual(right + 0.01);
        for (const b of boxes.slice(i + 1))
          expect(Math.abs(a.y - b.y) >= 12 || a.from + a.w <= b.from || b.from + b.w <= a.from).toBe(true);
      }
      if (line) {
        for (const y of [line.y1, line.y2]) {
          expect(y).toBeGreaterThanOrEqual(plot.y - 0.01);
          expect(y).toBeLessThanOrEqual(plot.y + plot.height + 0.01);
        }
        expect(line.x1).toBeGreaterThanOrEqual(plot.x - 0.01);
        expect(line.x2).toBeLessThanOrEqual(right + 0.01);
      }
      for (const { at } of xTicks) expect(at).toBeLessThanOrEqual(right + 0.01);
      for (const { at } of yTicks) expect(at).toBeGreaterThanOrEqual(plot.y - 0.01);
    });
  });
  it("names what lies furthest off the line first", () => {
    const data = answer([
      [1, 1],
      [2, 2],
      [3, 30],
      [4, 4],
      [5, 5],
    ]);
    const { points } = layoutScatter({ data, width: 600, height: 300, xStyle: style, yStyle: style });
    expect(points[2]!.label?.text).toBe("Point 2");
  });
});

describe("the selected part", () => {
  it("stands where its two figures are, inside the plot, and not where it has but one", () => {
    const style = valueStyle({ kind: "count", of: "units" }, 0, "units");
    const { points, plot } = layoutScatter({
      data: answer([
        [1, 1],
        [2, 2],
      ]),
      part: answer([
        [9, 0.5],
        [3, NaN],
      ]),
      width: 400,
      height: 300,
      xStyle: style,
      yStyle: style,
    });
    const [first, second] = points.map(({ part }) => part);
    expect(second).toBeNull();
    expect(first!.x).toBeGreaterThan(points[1]!.cx);
    expect(first!.y).toBeGreaterThan(points[0]!.cy);
    expect(first!.x <= plot.x + plot.width && first!.y <= plot.y + plot.height).toBe(true);
  });
});
