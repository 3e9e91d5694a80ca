import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { filled, laidShares, ringPath } from "./layout.ts";

describe("shares laid out", () => {
  it("follow each other and fill the whole to its end, each as large as its part", () => {
    const value = fc.double({ min: 0, max: 1e12, noNaN: true });
    fc.assert(
      fc.property(fc.array(value, { minLength: 1, maxLength: 8 }), (values) => {
        const laid = laidShares(values);
        const sum = values.reduce((a, b) => a + b, 0);
        expect(laid[0]!.from).toBe(0);
        if (sum > 0) expect(laid.at(-1)!.to).toBeCloseTo(1, 9);
        for (const [i, { from, to }] of laid.entries()) {
          expect(from).toBe(i === 0 ? 0 : laid[i - 1]!.to);
          if (sum > 0) expect(to - from).toBeCloseTo(values[i]! / sum, 9);
          expect(ringPath({ from, to }, 70, 40)).not.toMatch(/NaN/);
        }
      }),
    );
  });
  it("fill no more than all, and no less than nothing", () => {
    expect([1.4, 0.7, -0.2].map(filled)).toEqual([1, 0.7, 0]);
  });
});
