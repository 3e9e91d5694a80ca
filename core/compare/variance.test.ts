import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { absent, isPresent, present } from "../figures/figure.ts";
import { judge, percentOfBasis, varianceOf } from "./variance.ts";
import { varianceWords } from "../words/variance-words.ts";

const PERCENT = { kind: "percent", percent: 1 } as const;

describe("variance", () => {
  it("is on plan up to and including the tolerance", () => {
    expect(judge(1, 100, "higher", PERCENT)).toBe("on plan");
    expect(judge(1.01, 100, "higher", PERCENT)).toBe("favourable");
    expect(judge(-1.01, -100, "lower", PERCENT)).toBe("favourable");
    expect(judge(0.005, 0.9, "higher", { kind: "points", points: 0.5 })).toBe("on plan");
    expect(judge(15_000, 1, "lower", { kind: "amount", amount: 15_000 })).toBe("on plan");
    expect(judge(15_001, 1, "lower", { kind: "amount", amount: 15_000 })).toBe("unfavourable");
  });
  it("judges a cost over budget as unfavourable, whichever way the numbers lie", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 5, noNaN: true }),
        fc.double({ min: 1, max: 1e9, noNaN: true }),
        (over, basis) => {
          expect(judge(over * basis, basis, "lower", PERCENT)).toBe("unfavourable");
          expect(judge(over * basis, basis, "higher", PERCENT)).toBe("favourable");
          expect(judge(-over * basis, basis, "closest", PERCENT)).toBe("unfavourable");
          expect(judge(over * basis, basis, "neutral", PERCENT)).toBe("neutral");
        },
      ),
    );
  });
  it("takes percentages of the basis's size, and none of zero or nothing", () => {
    expect(percentOfBasis(present(20), present(-100))).toEqual({ value: 0.2 });
    expect(percentOfBasis(present(20), present(0))).toMatchObject({ absent: "no base" });
    expect(percentOfBasis(present(20), absent("not covered", "x"))).toMatchObject({ absent: "no base" });
  });
  it("has words that never contradict the sign or the judgement", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.constantFrom("higher" as const, "lower" as const),
        (actual, basis, direction) => {
          const variance = varianceOf(present(actual - basis), present(basis), { direction, tolerance: PERCENT });
          const words = varianceWords({
            unit: { kind: "money" },
            decimals: 0,
            money: "units",
            basisName: "Budget",
            ...variance,
          });
          if (actual > basis) expect(words).toContain("above Budget");
          if (actual < basis) expect(words).toContain("below Budget");
          if (actual === basis) expect(words).toBe("equal to Budget, on plan");
          if (variance.judgement) expect(words.endsWith(variance.judgement)).toBe(true);
          expect(words).not.toContain("NaN");
          expect(isPresent(variance.delta) && !words.includes("−")).toBe(true);
        },
      ),
    );
  });
});
