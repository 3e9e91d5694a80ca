import { describe, expect, it } from "vitest";
import { deltaStyle } from "#core/formats/number-words.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutGrowth } from "./layout.ts";
import type { GrowthAnswer } from "#core/panels/growth/schema.ts";

const MONEY = { kind: "money" } as const;
const answer = (values: readonly (number | null)[], name = (i: number) => `M${i}`): GrowthAnswer => ({
  kind: "growth",
  frame: {} as GrowthAnswer["frame"],
  kpi: { unit: MONEY } as GrowthAnswer["kpi"],
  headline: "",
  descriptor: "",
  on: "prior-year",
  noun: "month",
  dimension: null,
  ranges: null,
  points: values.map((value, i) => ({
    key: String(i),
    name: name(i),
    short: name(i),
    member: null,
    months: null,
    now: { value: 1 },
    before: { value: 1 },
    growth: value === null ? { absent: "no base", detail: "none" } : { value },
    judgement: null,
    range: null,
  })),
  notes: [],
});
const layout = (data: GrowthAnswer, width: number) =>
  layoutGrowth({ data, width, height: 260, deltaStyle: deltaStyle(MONEY, 0, "units"), hasLabels: true });
const long = "A name of sixty letters that nobody would give to any route, not";
const CASES: readonly (readonly [string, GrowthAnswer])[] = [
  ["one", answer([0.05])],
  ["none", answer([])],
  ["all negative", answer([-0.5, -0.01, -1])],
  ["mixed signs", answer([0.5, -0.5, 0])],
  ["a giant outlier", answer([0.01, 1e6, -0.02])],
  ["400 periods", answer(Array.from({ length: 400 }, (_, i) => Math.sin(i)))],
  [
    "60 members with names of 60 letters",
    answer(
      Array.from({ length: 60 }, (_, i) => i / 100),
      () => long,
    ),
  ],
  ["absent values", answer([null, 0.1, null])],
  ["nothing but absent values", answer([null, null])],
  ["all equal", answer([0.1, 0.1, 0.1])],
];

describe("the layout of growth", () => {
  describe.each([240, 600, 1600])("%i px wide", (width) => {
    it.each(CASES)("stands every bar of %s on zero, inside the plot, and no figure over another", (_, data) => {
      const { bars, plot, zero, names } = layout(data, width);
      for (const { bar } of bars) {
        if (!bar) continue;
        expect(Object.values(bar).every(Number.isFinite)).toBe(true);
        expect(Math.min(Math.abs(bar.y - zero), Math.abs(bar.y + bar.height - zero))).toBeLessThan(0.8);
        expect(bar.y).toBeGreaterThanOrEqual(plot.y - 0.01);
        expect(bar.y + bar.height).toBeLessThanOrEqual(plot.y + plot.height + 0.8);
        expect(bar.x + bar.width).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
      }
      const labels = bars.flatMap(({ label }) => (label ? [label] : []));
      for (const [i, { x, text }] of labels.entries()) {
        expect(x - labelWidth(text) / 2).toBeGreaterThanOrEqual(plot.x - 0.01);
        expect(x + labelWidth(text) / 2).toBeLessThanOrEqual(plot.x + plot.width + 0.01);
        const next = labels[i + 1];
        if (next) expect(next.x - x).toBeGreaterThanOrEqual((labelWidth(text) + labelWidth(next.text)) / 2 - 3);
      }
      for (const [i, { at, label }] of names.entries()) {
        const next = names[i + 1];
        if (next) expect(at + labelWidth(label) / 2).toBeLessThanOrEqual(next.at - labelWidth(next.label) / 2 + 3.01);
      }
    });
  });
});

describe("the selected part", () => {
  it("is a line at its own growth, inside the plot, also where the whole has none", () => {
    const { bars, plot } = layoutGrowth({
      data: answer([0.1, null, 0.2]),
      part: answer([-0.4, 0.3, null]),
      width: 500,
      height: 260,
      deltaStyle: deltaStyle(MONEY, 0, "units"),
      hasLabels: true,
    });
    const at = bars.map(({ part }) => part?.y);
    expect(at[2]).toBeUndefined();
    // Lower growth stands lower.
    expect(at[0]!).toBeGreaterThan(at[1]!);
    for (const y of [at[0]!, at[1]!]) expect(y >= plot.y && y <= plot.y + plot.height).toBe(true);
  });
});
