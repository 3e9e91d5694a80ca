import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { currencyInHead, currencyInTitle, currencyWithAmount } from "./currency-code.ts";
import { convertAmount } from "./rate.ts";

const rate = (text: string, priced: "foreign" | "own") => ({ units: Math.round(Number(text) * 1e9), priced });

describe("converting an amount", () => {
  it("rounds once, halves away from zero", () => {
    // 1,234.56 × 0.9213 = 1,137.400128; 0.05 × 0.5 = 0.025.
    expect(convertAmount({ units: 123456, decimals: 2 }, rate("0.9213", "foreign"), 2)).toBe(113740);
    expect(convertAmount({ units: 5, decimals: 2 }, rate("0.5", "foreign"), 2)).toBe(3);
    expect(convertAmount({ units: -5, decimals: 2 }, rate("0.5", "foreign"), 2)).toBe(-3);
    // 100 / 1.0834 = 92.302012…
    expect(convertAmount({ units: 100, decimals: 0 }, rate("1.0834", "own"), 2)).toBe(9230);
    expect(convertAmount({ units: 0, decimals: 2 }, rate("1.0834", "own"), 2)).toBe(0);
    expect(convertAmount({ units: 900000000000000, decimals: 0 }, rate("2", "foreign"), 2)).toBeUndefined();
  });

  it("is never farther from the exact amount than half a unit, and signed alike both ways", () => {
    const amounts = fc.record({ units: fc.integer({ min: 1, max: 1e12 }), decimals: fc.integer({ min: 0, max: 4 }) });
    const rates = fc.record({
      units: fc.integer({ min: 1_000_000, max: 2_000_000_000_000 }),
      priced: fc.constantFrom("foreign" as const, "own" as const),
    });
    fc.assert(
      fc.property(amounts, rates, (amount, own) => {
        const made = convertAmount(amount, own, 2);
        if (made === undefined) return;
        // |made/100 − units/10^d × rate| ≤ 1/200, in whole numbers.
        const [over, under] =
          own.priced === "foreign" ? [BigInt(own.units), 10n ** 9n] : [10n ** 9n, BigInt(own.units)];
        const exact = BigInt(amount.units) * over * 100n;
        const unit = 10n ** BigInt(amount.decimals) * under;
        const apart = BigInt(made) * unit - exact;
        expect(2n * (apart < 0n ? -apart : apart) <= unit).toBe(true);
        expect(convertAmount({ ...amount, units: -amount.units }, own, 2)).toBe(made === 0 ? 0 : -made);
      }),
    );
  });
});

describe("the currency of an amount", () => {
  it.each([
    ["1,319.00", "EUR", undefined],
    ["$1,319.00", "EUR", "USD"],
    ["($1,319.00)", "EUR", "USD"],
    ["1.234,56-", "EUR", undefined],
    ["1 234,50 €", "USD", "EUR"],
    ["CHF 12", "EUR", "CHF"],
    ["12 ABC", "EUR", undefined],
    // A dollar of a company that reports in another dollar is its own.
    ["$ 12", "CAD", "CAD"],
    ["¥ 12", "CNY", "CNY"],
  ])("of %s in a company of %s is %s", (text, own, code) => {
    expect(currencyWithAmount(text, own)).toBe(code);
  });

  it("is said by heads and titles, where capitals are no other word", () => {
    expect(currencyInHead("Amount (USD)", "EUR")).toBe("USD");
    expect(currencyInHead("EUR / USD", "EUR")).toBeUndefined();
    expect(currencyInTitle("Sales 2026, USD thousand", "EUR")).toBe("USD");
    expect(currencyInTitle("Budget in CHF", "EUR")).toBe("CHF");
    expect(currencyInTitle("SEK LTD sales", "EUR")).toBeUndefined();
  });
});
