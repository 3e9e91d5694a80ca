import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { valueStyle, deltaStyle } from "#core/formats/number-words.ts";
import type { Figure } from "#core/figures/schema.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { clearOf, layoutTimeChart, type TimeChartOptions } from "./layout.ts";
import type { SeriesPointAnswer } from "#core/panels/time-chart/schema.ts";

const none: Figure = { absent: "no data", detail: "none" };
const point = (index: number, actual: number | null, budget: number): SeriesPointAnswer => {
  const figure: Figure = actual === null ? none : { value: actual };
  const delta: Figure = actual === null ? none : { value: actual - budget };
  return {
    short: "M",
    months: "2026-01",
    period: `2026-${String(index + 1).padStart(2, "0")}`,
    name: `month ${index}`,
    actual: figure,
    forecast: actual === null ? { value: 90 } : none,
    budget: { value: budget },
    target: none,
    priorYear: { value: 80 },
    basis: { value: budget },
    varianceOf: actual === null ? "forecast" : "actual",
    inSpan: actual !== null,
    variance: {
      delta,
      deltaPercent: none,
      tolerances: null,
      judgement: actual === null ? null : actual >= budget ? "favourable" : "unfavourable",
    },
  };
};
const options = (change: Partial<TimeChartOptions> = {}): TimeChartOptions => ({
  points: [point(0, 100, 90), point(1, 120, 130), point(2, -20, 10), point(3, null, 95)],
  width: 400,
  height: 420,
  marks: "columns",
  style: valueStyle({ kind: "count", of: "things" }, 0, "units"),
  deltaStyle: deltaStyle({ kind: "count", of: "things" }, 0, "units"),
  closedTo: "2026-03",
  references: [],
  hasLabels: true,
  ...change,
});

describe("the time chart's layout", () => {
  it("starts columns at zero, upwards and downwards", () => {
    const { months, scale } = layoutTimeChart(options());
    const [up, , down] = months;
    expect(up!.actual!.y + up!.actual!.height).toBeCloseTo(scale.baseline);
    expect(down!.actual!.y).toBeCloseTo(scale.baseline);
    expect(months[1]!.actual!.height / months[0]!.actual!.height).toBeCloseTo(1.2);
  });
  it("puts the budget's seam across the whole column at its height, and the prior year behind to the left", () => {
    const [first] = layoutTimeChart(options()).months;
    expect(first!.budget!.x2 - first!.budget!.x1).toBeGreaterThan(first!.actual!.width);
    expect(first!.budget!.y).toBeGreaterThan(first!.actual!.y);
    expect(first!.priorYear!.x).toBeLessThan(first!.actual!.x);
  });
  it("keeps every figure inside the plot, also over the first and the last month of a narrow panel", () => {
    const months = [point(0, 13_606_000, 90), point(1, 12, 130), point(2, 10_791_000, 10)];
    const { plot, months: laid } = layoutTimeChart(options({ points: months, width: 160 }));
    const labels = laid.flatMap((m) => [m.label, m.variance?.label]).filter((l) => l !== null && l !== undefined);
    expect(labels.length).toBeGreaterThan(1);
    for (const { text, x } of labels) {
      expect(x - labelWidth(text) / 2).toBeGreaterThanOrEqual(plot.x - 1e-9);
      expect(x + labelWidth(text) / 2).toBeLessThanOrEqual(plot.x + plot.width + 1e-9);
    }
  });
  it("stands reference lines at their height, inside the plot even above all marks, their labels apart", () => {
    const line = (name: string, value: number | null) => ({ name, figure: value === null ? none : { value } });
    const { references, plot, scale } = layoutTimeChart(
      options({ references: [line("A", 300), line("B", 299), line("C", 0), line("D", null)] }),
    );
    expect(references.map((r) => r.name)).toEqual(["A: 300", "B: 299", "C: 0"]);
    expect(references[0]!.y).toBeGreaterThanOrEqual(plot.y);
    expect(references[2]!.y).toBeCloseTo(scale.ticks.find((t) => t.label === "0")!.y);
    expect(references[1]!.labelY - references[0]!.labelY).toBeGreaterThanOrEqual(12);
  });
  it("writes no figure across the seam of a budget or the notches of a target", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 300, noNaN: true }), { maxLength: 3 }),
        fc.double({ min: 20, max: 300, noNaN: true }),
        (marks, baseline) => {
          const at = clearOf(marks, baseline);
          expect(at).toBeLessThanOrEqual(baseline);
          for (const y of marks) expect(y <= at - 11 || y >= at + 4).toBe(true);
        },
      ),
    );
    expect(clearOf([100], 98)).toBe(95.5);
    expect(clearOf([80], 98)).toBe(98);
  });

  it("writes no values where none are wanted", () => {
    const { months } = layoutTimeChart(options({ hasLabels: false }));
    expect(months.every((m) => m.label === null && !m.variance?.label)).toBe(true);
  });
  it("draws nothing for what is absent", () => {
    const last = layoutTimeChart(options()).months[3]!;
    expect([last.actual, last.target, last.variance]).toEqual([null, null, null]);
    expect(last.forecast).not.toBeNull();
  });
  it("lets the forecast's line hang on the last actual, and marks where months are closed", () => {
    const { lines, closedX, months } = layoutTimeChart(options());
    expect(lines.forecast[2]).toEqual(lines.actual[2]);
    expect(lines.forecast[3]).not.toBeNull();
    expect(closedX).toBeCloseTo(months[3]!.band.x, 0);
  });
  it("keeps variance bars inside their strip and on their zero line's side", () => {
    const { months, varianceZero } = layoutTimeChart(options());
    const [up, down] = months;
    expect(up!.variance!.box.y + up!.variance!.box.height).toBeCloseTo(varianceZero);
    expect(down!.variance!.box.y).toBeCloseTo(varianceZero);
    for (const m of months) if (m.variance) expect(m.variance.box.y + m.variance.box.height).toBeLessThanOrEqual(420);
  });
  it("thins labels out rather than letting them overlap", () => {
    const many = Array.from({ length: 24 }, (_, i) => point(i % 12, 123_456_789 + i, 1)).map((p, i) => ({
      ...p,
      period: `m${i}`,
    }));
    const { months } = layoutTimeChart(options({ points: many, width: 380 }));
    const labels = months.filter((m) => m.label !== null);
    expect(labels.length).toBeGreaterThan(1);
    for (let i = 1; i < labels.length; i += 1)
      expect(labels[i]!.centre - labels[i - 1]!.centre).toBeGreaterThan(labels[i]!.label!.text.length * 5.5);
  });
});
