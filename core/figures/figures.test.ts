import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { formatAmount, parseAmount, toMajor } from "./amount.ts";
import { absent, combine, map, present } from "./figure.ts";

describe("amounts", () => {
  it("reads what it writes, for every number of decimals", () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.integer({ min: 0, max: 9 }), (minor, decimals) => {
        expect(parseAmount(formatAmount(minor, decimals), decimals)).toBe(minor === 0 ? 0 : minor);
      }),
    );
  });
  it("adds up exactly, whatever the order", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1e12, max: 1e12 }), { maxLength: 200 }), (minor) => {
        const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);
        expect(sum([...minor].sort((a, b) => a - b))).toBe(sum(minor));
      }),
    );
  });
  it("keeps to the decimals it is told", () => {
    expect(parseAmount("12.345", 2)).toBeUndefined();
    expect(parseAmount("12.340", 2)).toBe(1234);
    expect(parseAmount("-0.00", 2)).toBe(0);
    expect(parseAmount("99999999999999999", 2)).toBeUndefined();
    expect(toMajor(10, 2)).toBe(0.1);
  });
});

describe("figures", () => {
  const none = absent("no data", "nothing there");
  it("let an absence travel through arithmetic, the first one first", () => {
    const other = absent("not covered", "elsewhere");
    expect(combine(none, other, () => present(1))).toBe(none);
    expect(combine(present(1), other, () => present(1))).toBe(other);
    expect(map(none, (v) => v + 1)).toBe(none);
  });
  it("keep zero a value", () => {
    expect(combine(present(0), present(0), (a, b) => present(a + b))).toEqual({ value: 0 });
  });
});
