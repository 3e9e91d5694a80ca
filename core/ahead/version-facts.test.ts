import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { spread } from "./version-facts.ts";

describe("spreading a total", () => {
  it("gives whole numbers in proportion that add up to it", () => {
    expect(spread(100, [1, 1, 2])).toEqual([25, 25, 50]);
    expect(spread(10, [1, 1, 1])).toEqual([4, 3, 3]);
    expect(spread(0, [5, -5])).toEqual([5, -5]);
    expect(spread(10, [0, 0])).toEqual([5, 5]);
    expect(spread(-10, [1, 3])).toEqual([-2, -8]);
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 8 }),
        (total, weights) => {
          const amounts = spread(total, weights);
          expect(amounts.every(Number.isInteger)).toBe(true);
          expect(amounts.reduce((all, amount) => all + amount, 0)).toBe(total);
        },
      ),
    );
  });
});
