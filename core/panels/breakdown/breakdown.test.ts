import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Dimension } from "../../dimensions/dimension.ts";
import { isPresent } from "../../figures/figure.ts";
import { OCTOBER, type SmallFact } from "../../testing/small-company.ts";
import { questionOf, someBooks, sumOf } from "../../testing/small-question.ts";
import { computeBreakdown } from "./compute.ts";
import type { BreakdownDefinition } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

const base: BreakdownDefinition = {
  key: "bars",
  kind: "breakdown",
  kpis: ["turnover"],
  by: { dimension: "shop", level: "Shop" },
  cluster: null,
  stacking: "clustered",
  order: "value",
  isReversed: false,
  top: null,
};
const compute = (facts: readonly SmallFact[], change: Partial<BreakdownDefinition> = {}) =>
  computeBreakdown({ ...base, ...change }, {}, questionOf(facts));
const value = (figure: Figure) => (isPresent(figure) ? figure.value : 0);
const bread = ({ scenario, account }: SmallFact) => scenario === "actual" && account === "bread";

describe("a breakdown", () => {
  it("has bars that are the facts' own, sorted, and a total that they add up to", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { rows, total } = compute(facts);
        for (const { member, row } of rows)
          expect(value(row.actual)).toBeCloseTo(
            sumOf(facts, bread, ({ shop }) => shop === member!.key),
            6,
          );
        const values = rows.map(({ row }) => value(row.actual));
        expect(values).toEqual(values.toSorted((a, b) => b - a));
        expect(values.reduce((sum, own) => sum + own, 0)).toBeCloseTo(value(total.row.actual), 6);
      }),
      { numRuns: 25 },
    );
  });
  it("measures the total of a rate, and the others together, rather than summing them", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { total, others, rows } = compute(facts, { kpis: ["margin"], top: 1, order: "name" });
        const margin = (...wanted: readonly ((fact: SmallFact) => boolean)[]) => {
          const sales = sumOf(facts, bread, ...wanted);
          const flour = sumOf(facts, (fact) => fact.scenario === "actual" && fact.account === "flour", ...wanted);
          return sales === 0 ? null : (sales - flour) / sales;
        };
        const whole = margin();
        if (whole !== null) expect(value(total.row.actual)).toBeCloseTo(whole, 9);
        if (!others) return;
        const apart = new Set(rows.map(({ member }) => member!.key));
        const rest = margin(({ shop }) => !apart.has(shop!));
        if (rest !== null) expect(value(others.row.actual)).toBeCloseTo(rest, 9);
      }),
      { numRuns: 25 },
    );
  });
  it("leaves members out that are at zero on either side, and says how many", () => {
    const fact = (shop: string, amount: number, scenario = "actual"): SmallFact => ({
      scenario,
      account: "bread",
      month: OCTOBER,
      shop,
      amount,
    });
    const facts = [fact("mill", 300), fact("gate", 0), fact("quay", 0), fact("quay", 100, "budget")];
    const { rows, notes } = compute(facts);
    expect(rows.map(({ name }) => name)).toEqual(["Mill", "Quay"]);
    expect(notes).toContain("1 of 3 shops is at zero on either side, and left out.");
  });

  it("says that more members are there than are looked at, and measures the others together", () => {
    const facts: SmallFact[] = ["mill", "gate"].map((shop, i) => ({
      scenario: "actual",
      account: "bread",
      shop,
      month: OCTOBER,
      amount: 1000 * (i + 1),
    }));
    const plain = questionOf(facts);
    const [shops] = plain.company.dimensions as [Dimension];
    const before = Array.from({ length: 120 }, (_, i) => ({ key: `kiosk-${i}`, name: `Kiosk ${i}`, parent: "north" }));
    const dimensions = [{ ...shops, members: [...before, ...shops.members] }];
    const question = {
      ...plain,
      company: { ...plain.company, dimensions },
      asked: { ...plain.asked, dimensions },
    };
    const answer = computeBreakdown(base, {}, question);
    expect(answer.others).toMatchObject({ count: 23 });
    expect(value(answer.others!.row.actual)).toBe(30);
    expect(answer.absent.map(({ name }) => name)).not.toContain("Kiosk 110");
    expect(answer.notes[0]).toMatch(/^Only the first 100 of 123 shops are shown individually/);
  });
});
