import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isPresent } from "../../figures/figure.ts";
import { OCTOBER, type SmallFact } from "../../testing/small-company.ts";
import { questionOf, someBooks, sumOf } from "../../testing/small-question.ts";
import { computeShare } from "./compute.ts";
import { leftWords, shareHeadline } from "./words.ts";
import type { ShareDefinition, SharePart } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import type { KpiRow } from "../parts/schema.ts";

const row = (delta: number, direction: "higher" | "lower" = "higher"): KpiRow =>
  ({
    kpi: { unit: { kind: "money" }, decimals: 0, direction },
    basisName: "Budget",
    variance: {
      delta: { value: delta },
      judgement: delta < 0 === (direction === "higher") ? "unfavourable" : "favourable",
    },
    attainment: { value: 1 },
  }) as unknown as KpiRow;
const part = (name: string, share: number, delta = 0): SharePart => ({
  member: null,
  name,
  row: row(delta),
  share: { value: share },
  left: leftWords(row(delta), "thousand"),
  at: 0,
});

describe("shares in words", () => {
  it("say what is left to the basis, whichever way is wanted", () => {
    expect(leftWords(row(-120_000), "thousand")).toBe("€ 120k left to Budget");
    expect(leftWords(row(20_000), "thousand")).toBe("€ 20k above Budget");
    expect(leftWords(row(20_000, "lower"), "thousand")).toBe("€ 20k over Budget");
    expect(leftWords(row(-20_000, "lower"), "thousand")).toBe("€ 20k to spare");
    expect(leftWords(row(0), "thousand")).toBe("exactly Budget");
  });
  it("tell who makes most, and how many reach what they are to reach", () => {
    const parts = [part("North", 0.5), part("South", 0.3), part("East", 0.15), part("West", 0.05)];
    expect(shareHeadline("Revenue", "area", "whole", parts, "Budget")).toBe(
      "North makes 50.0% of revenue; the first three make 95.0%.",
    );
    const reached = [part("North", 0.5, 900_000), part("West", 0.1, -120_000)];
    expect(shareHeadline("Revenue", "area", "basis", reached, "Budget")).toBe(
      "1 of 2 areas reaches Budget in revenue; West is last: € 120k left to Budget.",
    );
  });
});

describe("what is near its basis", () => {
  const near = (direction: "higher" | "lower", delta: number): SharePart => {
    const own = row(delta, direction);
    return { ...part("Near", 0.1), row: { ...own, variance: { ...own.variance, judgement: "on plan" } } };
  };
  it("does not reach it, and is said to be within tolerance", () => {
    const parts = [part("North", 0.5, 900_000), near("higher", -4000)];
    expect(shareHeadline("Revenue", "area", "basis", parts, "Budget")).toBe(
      "1 of 2 areas reaches Budget in revenue, 1 more within tolerance.",
    );
  });
  it("of what is better lower stays within it, or does not", () => {
    const parts = [near("lower", -100), near("lower", 0), near("lower", 4000)];
    expect(shareHeadline("Fuel", "area", "basis", parts, "Budget")).toBe(
      "2 of 3 areas stay within Budget in fuel, 1 more within tolerance.",
    );
  });
});

describe("shares of a whole", () => {
  const definition: ShareDefinition = {
    key: "ring",
    kind: "share",
    kpi: "turnover",
    by: { dimension: "shop", level: "Shop" },
    of: "whole",
    shape: "ring",
  };
  const value = (figure: Figure) => (isPresent(figure) ? figure.value : 0);
  it("are the facts' own, and add up to it", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { parts, refusal } = computeShare(definition, {}, questionOf(facts));
        const bread = ({ scenario, account }: SmallFact) => scenario === "actual" && account === "bread";
        const whole = sumOf(facts, bread);
        if (refusal !== null || whole === 0) return;
        expect(parts.reduce((sum, { share }) => sum + value(share), 0)).toBeCloseTo(1, 9);
        for (const { member, share } of parts)
          expect(value(share)).toBeCloseTo(sumOf(facts, bread, ({ shop }) => shop === member!.key) / whole, 9);
      }),
      { numRuns: 20 },
    );
  });
  it("are refused of what does not add up, and of parts of both signs", () => {
    const facts = [-300, 500].map((amount, i): SmallFact => ({
      scenario: "actual",
      account: "bread",
      shop: ["mill", "gate"][i]!,
      month: OCTOBER,
      amount,
    }));
    const rate = computeShare({ ...definition, kpi: "margin" }, {}, questionOf(facts));
    expect(rate.refusal).not.toBeNull();
    // What is refused is not said in its headline, its notes or its table after all.
    expect(rate.headline).toBe("margin by shop is not shown as parts of a whole.");
    expect(rate.notes).toEqual([]);
    expect(rate.parts.every(({ share }) => !isPresent(share))).toBe(true);
    expect(computeShare(definition, {}, questionOf(facts)).refusal).not.toBeNull();
    // 500 and 300 by shop, and 200 taken away in the town alone: 133 % of 600.
    const discount = [500, 300, -200].map((amount, i): SmallFact => ({
      scenario: "actual",
      account: "bread",
      shop: ["mill", "gate", "north"][i]!,
      month: OCTOBER,
      amount,
    }));
    expect(computeShare(definition, {}, questionOf(discount)).refusal).toContain(
      "The parts make up 133.3% of the total",
    );
  });
});
