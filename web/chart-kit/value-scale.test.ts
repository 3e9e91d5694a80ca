import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { valueStyle } from "#core/formats/number-words.ts";
import { valueDomain, valueScale, varianceScale } from "./value-scale.ts";

const style = valueStyle({ kind: "count", of: "things" }, 0, "units");
const scaleOf = (values: readonly number[], marks: "columns" | "lines" = "columns") =>
  valueScale(values, { bottom: 300, top: 20, marks, style });

describe("the scale of values", () => {
  it("starts at zero for columns, always; lines may be shortened where zero would flatten them", () => {
    expect(valueDomain([98, 100], "columns")).toEqual({ domain: [0, 100], isShortened: false });
    expect(valueDomain([98, 100], "lines").isShortened).toBe(true);
    expect(valueDomain([10, 100], "lines").isShortened).toBe(false);
    expect(valueDomain([], "columns").domain).toEqual([0, 1]);
    expect(scaleOf([98, 100], "lines").baseline).toBe(300);
  });
  it("hangs columns from zero where all are negative, and puts zero inside where signs are mixed", () => {
    expect(scaleOf([-5, -10]).baseline).toBe(20);
    const mixed = scaleOf([-50, 50]);
    expect(mixed.baseline).toBeCloseTo(160);
    expect(mixed.at(50)).toBeLessThan(mixed.baseline);
  });
  it("holds one value, none, and all alike", () => {
    for (const values of [[], [7], [7, 7, 7], [0], [-3]]) {
      const scale = scaleOf(values);
      expect(scale.ticks.length).toBeGreaterThan(0);
      for (const value of values) expect(Number.isFinite(scale.at(value))).toBe(true);
    }
  });
  it("keeps every value inside, larger ones higher, zero at the baseline, and ticks told apart", () => {
    const amount = fc.double({ noNaN: true, min: -1e12, max: 1e12 });
    fc.assert(
      fc.property(
        fc.array(amount, { minLength: 1, maxLength: 40 }),
        fc.constantFrom("columns", "lines"),
        (values, marks) => {
          const scale = scaleOf(values, marks);
          for (const value of values) {
            expect(scale.at(value)).toBeGreaterThanOrEqual(20 - 1e-6);
            expect(scale.at(value)).toBeLessThanOrEqual(300 + 1e-6);
          }
          const sorted = [...values].sort((a, b) => a - b);
          for (const [i, value] of sorted.entries())
            if (i > 0) expect(scale.at(value)).toBeLessThanOrEqual(scale.at(sorted[i - 1]!) + 1e-6);
          if (!scale.isShortened) expect(scale.at(0)).toBeCloseTo(scale.baseline, 6);
          const spread = sorted.at(-1)! - sorted[0]!;
          // Below a ten-thousandth no axis tells more digits.
          if (spread > 0.01) expect(new Set(scale.ticks.map((t) => t.label)).size).toBe(scale.ticks.length);
        },
      ),
    );
  });
});

describe("the scale of variances", () => {
  const strip = { top: 100, height: 80, room: 13 };
  it("has the same scale up and down, with room for labels at both ends", () => {
    const at = varianceScale([40, -20], strip);
    expect(at(0) - at(20)).toBeCloseTo(at(-20) - at(0));
    expect(at(40)).toBeCloseTo(113);
    expect(at(-40)).toBeCloseTo(167);
  });
  it("gives the strip to the side that has variances, and shows its zero line all the same", () => {
    const up = varianceScale([10, 20], strip);
    expect(up(0)).toBeGreaterThan(150);
    expect(up(0)).toBeLessThan(180);
    const down = varianceScale([-10, -20], strip);
    expect(down(0)).toBeLessThan(130);
    expect(down(0)).toBeGreaterThan(100);
    expect(varianceScale([], strip)(0)).toBeCloseTo(140);
  });
});
