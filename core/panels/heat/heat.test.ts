import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isPresent } from "../../figures/figure.ts";
import { OCTOBER, type SmallFact } from "../../testing/small-company.ts";
import { questionOf, someBooks, sumOf, YEAR_TO_DATE } from "../../testing/small-question.ts";
import { computeHeat } from "./compute.ts";
import type { HeatDefinition } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

const base: HeatDefinition = {
  key: "grid",
  kind: "heat",
  kpi: "turnover",
  rows: { kind: "member", dimension: "shop", level: "Shop" },
  columns: { kind: "month" },
  shade: "value",
  years: 1,
};
const compute = (facts: readonly SmallFact[], change: Partial<HeatDefinition> = {}) =>
  computeHeat({ ...base, ...change }, {}, questionOf(facts));
const value = (figure: Figure | undefined) => (figure && isPresent(figure) ? figure.value : 0);
const bread = ({ scenario, account }: SmallFact) => scenario === "actual" && account === "bread";

describe("a heat grid", () => {
  it("has in each cell what the facts add up to there, and Δ on the budget of the same cell", () => {
    fc.assert(
      fc.property(someBooks, (facts) => {
        const { rows, columns, cells } = compute(facts);
        expect(columns.entries).toHaveLength(7);
        for (const [r, { key }] of rows.entries.entries())
          for (const [c, cell] of cells[r]!.entries()) {
            const here = ({ shop, month }: SmallFact) => shop === key && month === YEAR_TO_DATE[c];
            const actual = sumOf(facts, bread, here);
            const budget = sumOf(facts, (fact) => fact.scenario === "budget" && fact.account === "bread", here);
            expect(value(cell.actual)).toBeCloseTo(actual, 6);
            expect(value(cell.variance.delta)).toBeCloseTo(actual - budget, 6);
          }
      }),
      { numRuns: 20 },
    );
  });
  it("sets members against years, each as far as it is known", () => {
    const fact = (month: number, amount: number): SmallFact => ({
      scenario: "actual",
      account: "bread",
      shop: "mill",
      month,
      amount,
    });
    const { columns, cells, rows } = compute([fact(OCTOBER, 300), fact(OCTOBER - 1, 200), fact(OCTOBER - 12, 100)], {
      columns: { kind: "year" },
      years: 2,
    });
    expect(columns.entries.map(({ name }) => name)).toEqual(["FY26", "FY27"]);
    const mill = rows.entries.findIndex(({ key }) => key === "mill");
    expect(cells[mill]!.map((cell) => [value(cell.actual), cell.months])).toEqual([
      [1, "2025-04..2026-03"],
      [5, "2026-04..2026-10"],
    ]);
  });
  it("refuses the same along both sides", () => {
    const facts: SmallFact[] = [{ scenario: "actual", account: "bread", shop: "mill", month: OCTOBER, amount: 100 }];
    expect(compute(facts, { rows: { kind: "month" } }).refusal).toMatch(/are both by month/);
  });
});
