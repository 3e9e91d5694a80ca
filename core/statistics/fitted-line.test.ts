import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { correlationWords, fittedLine } from "./fitted-line.ts";

describe("a fitted line", () => {
  it("is that calculated by hand", () => {
    const line = fittedLine([
      { x: 1, y: 2 },
      { x: 2, y: 3 },
      { x: 3, y: 5 },
      { x: 4, y: 6 },
    ])!;
    expect(line.slope).toBeCloseTo(1.4, 12);
    expect(line.intercept).toBeCloseTo(0.5, 12);
    expect(line.r2).toBeCloseTo(0.98, 12);
    expect(line.n).toBe(4);
  });
  it("leaves residuals that sum to nothing and go with x no more", () => {
    const value = fc.double({ min: -1000, max: 1000, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.record({ x: value, y: value }), { minLength: 3, maxLength: 40 }), (pairs) => {
        const line = fittedLine(pairs);
        if (!line || line.r2 < 1e-9 || Math.abs(line.slope) > 1e6) return;
        const residuals = pairs.map(({ x, y }) => y - (line.intercept + line.slope * x));
        const scale = 1 + Math.abs(line.slope) * 1000;
        expect(Math.abs(residuals.reduce((a, b) => a + b, 0)) / pairs.length / scale).toBeLessThan(1e-6);
        expect(Math.abs(line.r)).toBeLessThanOrEqual(1);
      }),
    );
  });
  it("is none of too few pairs, or of what does not vary", () => {
    expect(
      fittedLine([
        { x: 1, y: 1 },
        { x: 2, y: 2 },
      ]),
    ).toBeNull();
    expect(fittedLine([1, 2, 3].map((y) => ({ x: 7, y })))).toBeNull();
    expect(fittedLine([1, 2, 3].map((x) => ({ x, y: 1e9 })))).toBeNull();
  });
  it("is called by what it is", () => {
    expect([0.9, -0.5, 0.1].map((r) => correlationWords({ r, n: 40 }))).toEqual([
      "are closely correlated",
      "are loosely correlated, one falling as the other rises",
      "show no clear correlation",
    ]);
    // The smallest correlation of ten pairs that a table calls significant at 5 % is 0.632, of three 0.997.
    expect(
      [
        { r: 0.62, n: 10 },
        { r: 0.64, n: 10 },
        { r: -0.99, n: 3 },
        { r: 1, n: 3 },
      ].map(correlationWords),
    ).toEqual([
      "may go together by chance",
      "are loosely correlated",
      "may go together by chance",
      "may go together by chance",
    ]);
  });
});
