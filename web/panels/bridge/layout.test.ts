import { describe, expect, it } from "vitest";
import { stepOf } from "#core/panels/bridge/step.ts";
import { deltaStyle, valueStyle } from "#core/formats/number-words.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { layoutBridge } from "./layout.ts";
import type { BridgeAnswer, BridgeStep } from "#core/panels/bridge/schema.ts";

const MONEY = { kind: "money" } as const;
const step = (name: string, value: number, change: Partial<BridgeStep> = {}): BridgeStep =>
  stepOf({ key: name, name, value, ...change }, "higher");
const answer = (start: number, steps: readonly BridgeStep[], change: Partial<BridgeAnswer> = {}): BridgeAnswer => ({
  kind: "bridge",
  frame: {} as BridgeAnswer["frame"],
  kpi: {} as BridgeAnswer["kpi"],
  headline: "",
  descriptor: "",
  from: "basis",
  by: "account",
  level: null,
  dimension: null,
  path: [],
  start: { name: "Budget", scenario: "budget", value: start },
  steps,
  end: { name: "Actual", scenario: "actual", value: start + steps.reduce((sum, { value }) => sum + value, 0) },
  beyond: null,
  axis: null,
  variance: {} as BridgeAnswer["variance"],
  refusal: null,
  absent: [],
  notes: [],
  ...change,
});
const layout = (data: BridgeAnswer, width: number) =>
  layoutBridge({ data, width, style: valueStyle(MONEY, 0, "units"), deltaStyle: deltaStyle(MONEY, 0, "units") });

const long = "A step of sixty letters that nobody would give to any account, no";
const CASES: readonly (readonly [string, BridgeAnswer])[] = [
  ["one step", answer(10, [step("A", 5)])],
  ["no step", answer(10, [])],
  ["all negative", answer(-40, [step("A", -5), step("B", -700)])],
  ["mixed signs, across zero", answer(30, [step("A", -500), step("B", 900), step("C", 0)])],
  ["a giant outlier", answer(1e12, [step("A", -1e12), step("B", 3)])],
  [
    "forty steps",
    answer(
      500,
      Array.from({ length: 40 }, (_, i) => step(`Step ${i}`, (i % 3) - 1)),
    ),
  ],
  ["names of sixty letters", answer(100, [step(long, 40, { subtotal: long }), step("B", -3)])],
  ["steps too small to be seen", answer(1e6, [step("A", 40), step("B", -25)])],
  ["tiny and huge", answer(0.001, [step("A", 1e12), step("B", -0.001)])],
  ["nothing at all", answer(0, [step("A", 0)])],
  [
    "past the year's end",
    answer(60, [step("Nov", 10, { isForecast: true, judgement: null })], {
      beyond: { gap: step("To Budget", 5, { kind: "gap" }), end: { name: "Budget", scenario: "budget", value: 75 } },
    }),
  ],
];

describe("a bridge's layout", () => {
  describe.each([240, 380, 620, 1600])("%i px wide", (width) => {
    it.each(CASES)(
      "keeps every mark and label of %s inside, and each step where the one before it ended",
      (_, data) => {
        for (const axis of [null, "whole", "short"] as const) {
          const { lines, height, plot } = layout({ ...data, axis }, width);
          for (const { bar, label, name, band } of lines) {
            expect([bar.x, bar.y, bar.width, bar.height].every(Number.isFinite)).toBe(true);
            expect(bar.x).toBeGreaterThanOrEqual(plot.x - 0.8);
            expect(bar.x + bar.width).toBeLessThanOrEqual(width + 0.8);
            expect(labelWidth(name)).toBeLessThanOrEqual(Math.max(46, width * 0.38) + 7);
            const [from, to] =
              label.anchor === "start"
                ? [label.x, label.x + labelWidth(label.text)]
                : [label.x - labelWidth(label.text), label.x];
            expect(to).toBeLessThanOrEqual(width + 1);
            expect(from).toBeGreaterThanOrEqual(-1);
            expect(band.y + band.height).toBeLessThanOrEqual(height);
          }
          for (const [i, line] of lines.entries()) {
            const before = lines[i - 1];
            if (line.kind !== "step" || !before) continue;
            const near = Math.min(
              Math.abs(line.bar.x - before.threadX),
              Math.abs(line.bar.x + line.bar.width - before.threadX),
            );
            expect(near).toBeLessThan(1);
          }
          expect(lines.at(-1)!.after).toBeCloseTo((data.beyond?.end ?? data.end)!.value, 6);
        }
      },
    );
  });
  it("shortens the axis by itself only where steps could not be seen, and offers it where they are small", () => {
    const of = (value: number, axis: BridgeAnswer["axis"] = null) =>
      layout(answer(1000, [step("A", value)], { axis }), 600);
    expect([of(20).isShort, of(20).mayShorten, of(20).zero]).toEqual([true, true, null]);
    expect([of(20, "whole").isShort, of(20, "whole").zero !== null]).toEqual([false, true]);
    expect([of(150).isShort, of(150).mayShorten]).toEqual([false, true]);
    expect([of(150, "short").isShort]).toEqual([true]);
    expect([of(600).mayShorten, of(600, "short").isShort]).toEqual([false, false]);
    // Across zero there is no axis to shorten.
    expect(layout(answer(10, [step("A", -11)], { axis: "short" }), 600).isShort).toBe(false);
  });
  it("sums between the steps what stands before them", () => {
    const { lines } = layout(answer(100, [step("A", 5), step("B", 7, { subtotal: "Sales" }), step("C", -2)]), 600);
    expect(lines.map(({ name, after }) => [name, after])).toEqual([
      ["Budget", 100],
      ["A", 105],
      ["B", 112],
      ["Sales, together", 112],
      ["C", 110],
      ["Actual", 110],
    ]);
    expect(lines[3]!.label.text).toBe("+12");
  });
});

describe("the selected part", () => {
  const style = { style: valueStyle(MONEY, 0, "units"), deltaStyle: deltaStyle(MONEY, 0, "units") };
  const drawn = (data: BridgeAnswer, part: BridgeAnswer) =>
    layoutBridge({ data, part, width: 600, ...style }).lines.map(
      (line) => line.part && line.part.width / line.bar.width,
    );

  it("is as much of each bar as it has of the figure, on the same axis", () => {
    const whole = answer(100, [step("A", 40), step("B", -20)]);
    const parts = drawn(whole, answer(25, [step("A", 10), step("B", -5)]));
    expect(parts.map((share) => share && Number(share.toFixed(2)))).toEqual([0.25, 0.25, 0.25, 0.25]);
  });
  it("is left out where it would be cut off, of what is gathered, and of ends on a shortened axis", () => {
    expect(drawn(answer(100, [step("A", 40)]), answer(100, [step("A", -400)]))[1]).toBeNull();
    const gathered = answer(100, [step("A", 40), step("others", 5, { kind: "others" })]);
    expect(drawn(gathered, gathered)[2]).toBeNull();
    const short = answer(100_000, [step("A", 3)], { axis: "short" });
    expect(drawn(short, short)).toEqual([null, 1, null]);
  });
});
