import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { absent, isPresent, present } from "../figures/figure.ts";
import { judge, percentOfBasis, tolerancesOf, varianceOf } from "./variance.ts";
import { varianceWords } from "../words/variance-words.ts";

const PERCENT = { kind: "percent", percent: 1 } as const;

describe("the tolerances a variance spans", () => {
  it("are counted whole, signed as Δ; the limit is inside", () => {
    const one = { kind: "percent", percent: 1 } as const;
    expect([-25, -20, -10, -5, 0, 10, 10.5, 20, 35].map((delta) => tolerancesOf(delta, 1000, one))).toEqual([
      -2, -2, 0, 0, 0, 0, 1, 2, 3,
    ]);
    expect(tolerancesOf(-0.031, 0.9, { kind: "points", points: 1 })).toBe(-3);
    expect(tolerancesOf(45, -1000, { kind: "amount", amount: 10 })).toBe(4);
  });
  it("are one where nothing is tolerated, however large the variance", () => {
    expect(tolerancesOf(-5000, 10, { kind: "percent", percent: 0 })).toBe(-1);
    expect(tolerancesOf(0, 10, { kind: "percent", percent: 0 })).toBe(0);
    // Of a basis of nothing no percentage can be tolerated.
    expect(tolerancesOf(3, 0, one100)).toBe(1);
  });
  it("are none exactly where a KPI with a direction is on plan", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true }), fc.double({ noNaN: true, min: -1e9, max: 1e9 }), (delta, basis) => {
        const tolerance = { kind: "percent", percent: 2 } as const;
        expect(tolerancesOf(delta, basis, tolerance) === 0).toBe(
          judge(delta, basis, "higher", tolerance) === "on plan",
        );
      }),
    );
  });
});

const one100 = { kind: "percent", percent: 100 } as const;

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
