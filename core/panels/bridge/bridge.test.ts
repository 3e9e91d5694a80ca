import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseSpan } from "../../calendar/span.ts";
import { monthOf } from "../../calendar/month.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { isPresent } from "../../figures/figure.ts";
import { isLinear } from "../../formula/is-linear.ts";
import { contextOf, kpiFrom, run } from "../../testing/small-company.ts";
import { accountPath, accountSteps } from "./account-steps.ts";
import { effectsOf, type PricedMember } from "./effect-steps.ts";
import { bridgeHeadline } from "./words.ts";
import { bySize, gathered, stepOf } from "./step.ts";

const APRIL = monthOf(2026, 4);
const frame = {
  asOf: monthOf(2026, 9),
  span: parseSpan("year-to-date")!,
  basis: { kind: "scenario", scenario: "budget" } as const,
  scope: {},
};
const amounts = fc.array(fc.integer({ min: -1_000_000, max: 1_000_000 }), { minLength: 6, maxLength: 6 });
const sum = (values: readonly { readonly value: number }[]) => values.reduce((all, { value }) => all + value, 0);

describe("a bridge by account", () => {
  const kpi = kpiFrom("sales - cost");
  it("has steps that add up to Δ, whatever is opened, each signed by its effect on the KPI", () => {
    fc.assert(
      fc.property(amounts, amounts, amounts, amounts, fc.constantFrom(null, "sales", "cost"), (a, b, c, d, opened) => {
        const context = contextOf([
          ...run("actual", "bread", APRIL, a),
          ...run("actual", "flour", APRIL, b),
          ...run("budget", "bread", APRIL, c),
          ...run("budget", "flour", APRIL, d),
          ...run("actual", "cake", APRIL, d),
          ...run("budget", "cake", APRIL, a),
        ]);
        const compared = compareKpi(kpi, frame, context);
        const steps = accountSteps(kpi, compared, context, opened)!;
        const { delta } = compared.variance;
        expect(isPresent(delta) ? delta.value : NaN).toBeCloseTo(sum(steps), 6);
      }),
    );
  });
  it("takes more cost for what it is, and sums up each account that the formula names", () => {
    const context = contextOf([
      ...run("actual", "bread", APRIL, [500, 500]),
      ...run("budget", "bread", APRIL, [400, 400]),
      ...run("actual", "flour", APRIL, [300, 300]),
      ...run("budget", "flour", APRIL, [250, 250]),
    ]);
    const steps = accountSteps(kpi, compareKpi(kpi, { ...frame, asOf: APRIL + 1 }, context), context, null)!;
    const of = (key: string) => steps.find((step) => step.key === key)!;
    expect([of("bread").value, of("bread").judgement]).toEqual([2, "favourable"]);
    expect([of("flour").value, of("flour").judgement]).toEqual([-1, "unfavourable"]);
    expect(steps.map(({ key, subtotal }) => [key, subtotal])).toEqual([
      ["bread", "sales"],
      ["flour", "cost"],
    ]);
    expect(accountPath(kpi, context.accounts, "flour")).toEqual([{ key: "flour", name: "flour" }]);
    expect(() => accountSteps(kpi, compareKpi(kpi, frame, context), context, "till")).toThrow(/no account "till"/);
  });
  it("is not for what is no sum of accounts", () => {
    const context = contextOf([]);
    const rate = kpiFrom("sales / cost");
    expect(accountSteps(rate, compareKpi(rate, frame, context), context, null)).toBeNull();
    expect(["sales * 2 - cost / 4", "-(sales - cost)", "sales"].map((f) => isLinear(kpiFrom(f).formula))).toEqual([
      true,
      true,
      true,
    ]);
    expect(["sales * cost", "abs(sales)", "10 / sales"].map((f) => isLinear(kpiFrom(f).formula))).toEqual([
      false,
      false,
      false,
    ]);
  });
});

describe("volume, mix and price", () => {
  const member = (name: string, q0: number, p0: number, q1: number, p1: number): PricedMember => ({
    name,
    quantity: { before: q0, now: q1 },
    value: { before: q0 * p0, now: q1 * p1 },
  });
  it("are those calculated by hand", () => {
    // 10 at 5 and 10 at 15 become 12 at 5 and 18 at 14: p̄₀ = 10, volume 10 · 10, mix −3 · 5 + 3 · 5 … = 30, price −18.
    const effects = effectsOf([member("A", 10, 5, 12, 5), member("B", 10, 15, 18, 14)]);
    expect([effects.volume, effects.mix, effects.price]).toEqual([100, 30, -18]);
  });
  it("add up to the whole difference, with new and discontinued members apart", () => {
    const quantity = fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 10_000 }));
    const price = fc.double({ min: 0.01, max: 1000, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(quantity, price, quantity, price), { maxLength: 12 }), (all) => {
        const members = all.map(([q0, p0, q1, p1], i) => member(String(i), q0, p0, q1, p1));
        const { volume, mix, price: byPrice, fresh, gone } = effectsOf(members);
        const delta = members.reduce((d, { value }) => d + value.now - value.before, 0);
        const scale = members.reduce((s, { value }) => s + Math.abs(value.now) + Math.abs(value.before), 1);
        expect(Math.abs(volume + mix + byPrice + fresh.value + gone.value - delta) / scale).toBeLessThan(1e-9);
        expect(fresh.names.every((name) => members[Number(name)]!.quantity.before === 0)).toBe(true);
        expect(gone.names.every((name) => members[Number(name)]!.quantity.now === 0)).toBe(true);
      }),
    );
  });
});

describe("the headline of a bridge", () => {
  const facts = (delta: number) => ({
    unit: { kind: "money" } as const,
    decimals: 0,
    money: "thousand" as const,
    basisName: "Budget",
    delta: { value: delta },
    deltaPercent: { value: delta / 100_000 },
    judgement: "favourable" as const,
  });
  const steps = (...values: number[]) =>
    values.map((value, i) => stepOf({ key: String(i), name: ["Freight", "Crew", "Fuel"][i]!, value }, "higher"));
  it("says what explains most of it, and what goes the other way", () => {
    expect(bridgeHeadline("Revenue", facts(1_594_000), steps(724_000, 870_000))).toBe(
      "Revenue is € 1,594k (1,594.0%) above Budget, favourable: crew explains € 870k of it.",
    );
    expect(bridgeHeadline("Revenue", facts(1000_000), steps(900_000, 410_000, -310_000))).toBe(
      "Revenue is € 1,000k (1,000.0%) above Budget, favourable: freight explains € 900k of it; fuel takes € 310k back.",
    );
  });
  it("does not have a step explain more than there is", () => {
    expect(bridgeHeadline("Revenue", facts(44_000), steps(724_000, 400_000, -1_080_000))).toBe(
      "Revenue is € 44k (44.0%) above Budget, favourable: freight adds € 724k; fuel takes € 1,080k back.",
    );
    expect(bridgeHeadline("Revenue", facts(0), [])).toMatch(/equal to Budget, favourable\.$/);
  });
});

describe("the steps of a bridge", () => {
  const steps = [5, -40, 1, 2, -3, 60].map((value, i) => stepOf({ key: String(i), name: String(i), value }, "higher"));
  it("gather the smaller ones as their sum with their count, and never less than two", () => {
    const kept = gathered(steps, 2, "higher");
    expect(kept.map(({ key, value, count }) => [key, value, count])).toEqual([
      ["1", -40, null],
      ["5", 60, null],
      ["others", 5, 4],
    ]);
    expect(gathered(steps, 5, "higher")).toHaveLength(6);
    fc.assert(
      fc.property(fc.array(fc.integer(), { maxLength: 30 }), fc.nat(10), (values, top) => {
        const all = values.map((value, i) => stepOf({ key: String(i), name: "", value }, "lower"));
        expect(sum(gathered(all, top + 1, "lower"))).toBe(sum(all));
      }),
    );
  });
  it("stand by size where that is wanted, with what is left behind them", () => {
    const rest = stepOf({ key: "rest", name: "", kind: "rest", value: 900 }, "higher");
    expect(bySize([rest, ...steps]).map(({ key }) => key)).toEqual(["5", "1", "0", "4", "3", "2", "rest"]);
  });
});
