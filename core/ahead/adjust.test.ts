import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { adjustFacts, ADJUSTMENT_KINDS, type AdjustmentRule } from "./adjust.ts";
import type { VersionFact } from "./version-facts.ts";

const fact = (account: string, month: number, amount: number, shop = "mill"): VersionFact => ({
  account,
  month,
  amount,
  members: { shop },
});
const rule = (more: Partial<AdjustmentRule>): AdjustmentRule => ({
  kind: "percent",
  value: 10,
  from: 1,
  to: 12,
  isOf: () => true,
  ...more,
});
const amounts = (facts: readonly VersionFact[]) => facts.map(({ amount }) => amount);

describe("adjusting a version", () => {
  const facts = [fact("bread", 1, 300), fact("cake", 1, 100), fact("bread", 2, 500), fact("bread", 3, 70, "quay")];

  it("changes each month by a percentage, by an amount, or to one, in proportion to what it is made of", () => {
    expect(amounts(adjustFacts(facts, [rule({})]))).toEqual([330, 110, 550, 77]);
    expect(amounts(adjustFacts(facts, [rule({ kind: "add", value: 40, to: 2 })]))).toEqual([330, 110, 540, 70]);
    expect(amounts(adjustFacts(facts, [rule({ kind: "set", value: 200, from: 1, to: 1 })]))).toEqual([
      150, 50, 500, 70,
    ]);
  });

  it("leaves alone what is not meant, and goes on from what earlier ones made", () => {
    const ofQuay = rule({ isOf: ({ members }) => members["shop"] === "quay", value: -50 });
    expect(amounts(adjustFacts(facts, [ofQuay]))).toEqual([300, 100, 500, 35]);
    const twice = [rule({ value: 100, to: 1 }), rule({ kind: "add", value: -80, to: 1 })];
    expect(amounts(adjustFacts(facts, twice))).toEqual([540, 180, 500, 70]);
    expect(adjustFacts(facts, [rule({ from: 7, to: 9, kind: "set", value: 5 })])).toEqual(facts);
  });

  it("adds up to what was asked for, to the cent, whatever the amounts", () => {
    const some = fc.array(
      fc.record({
        account: fc.constantFrom("a", "b"),
        month: fc.integer({ min: 1, max: 4 }),
        amount: fc.integer({ min: -5000, max: 90_000 }),
      }),
      { minLength: 1, maxLength: 20 },
    );
    const change = fc.record({
      kind: fc.constantFrom(...ADJUSTMENT_KINDS),
      value: fc.integer({ min: -90, max: 5000 }),
    });
    fc.assert(
      fc.property(some, change, (rows, { kind, value }) => {
        const before = rows.map(({ account, month, amount }) => fact(account, month, amount));
        const isOf = ({ account }: VersionFact) => account === "a";
        const after = adjustFacts(before, [rule({ kind, value, from: 2, to: 3, isOf })]);
        const sum = (all: readonly VersionFact[], month: number, account: string) =>
          all.filter((one) => one.month === month && one.account === account).reduce((s, { amount }) => s + amount, 0);
        for (const month of [1, 2, 3, 4])
          for (const account of ["a", "b"]) {
            const was = sum(before, month, account);
            const isThere = before.some((one) => one.month === month && one.account === account);
            const isMeant = isThere && account === "a" && month >= 2 && month <= 3;
            const wanted = !isMeant
              ? was
              : kind === "percent"
                ? Math.round(was * (1 + value / 100))
                : kind === "add"
                  ? was + value
                  : value;
            expect(sum(after, month, account) - wanted).toBeCloseTo(0, 9);
            expect(after.every(({ amount }) => Number.isInteger(amount))).toBe(true);
          }
      }),
    );
  });
});
