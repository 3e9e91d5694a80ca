import { describe, expect, it } from "vitest";
import type { Dimension } from "../dimensions/dimension.ts";
import { isPresent, type Figure } from "../figures/figure.ts";
import { OCTOBER, type SmallFact } from "../testing/small-company.ts";
import { questionOf, YEAR_TO_DATE } from "../testing/small-question.ts";
import { computeBridge } from "./bridge/compute.ts";
import { computeGrowth } from "./growth/compute.ts";
import { computeHeat } from "./heat/compute.ts";
import type { PanelQuestion } from "./panel-question.ts";
import { computeTimeChart } from "./time-chart/compute.ts";

const fact = (scenario: string, shop: string, month: number, amount: number): SmallFact => ({
  scenario,
  account: "bread",
  shop,
  month,
  amount,
});
/** The mill closed last year; the gate goes on. */
const facts = YEAR_TO_DATE.flatMap((month) => [
  fact("actual", "mill", month - 12, 50_000),
  fact("actual", "gate", month - 12, 10_000),
  fact("actual", "gate", month, 12_000),
  fact("budget", "gate", month, 11_000),
]);
const SHOP = { dimension: "shop", level: "Shop" };

/** A question whose frame compares with the budget of this year, in which there is no mill. */
function afterTheMill(): PanelQuestion {
  const plain = questionOf(facts);
  const [shops] = plain.company.dimensions as [Dimension];
  const members = shops.members.map((m) => (m.key === "mill" ? { ...m, lastMonth: OCTOBER - 9 } : m));
  const dimensions = [{ ...shops, members }];
  return { ...plain, company: { ...plain.company, dimensions }, asked: { ...plain.asked, dimensions } };
}
const question = afterTheMill();
const value = (figure: Figure) => (isPresent(figure) ? figure.value : 0);

describe("a member that is gone", () => {
  it("is a step of a bridge from a time in which it lived, whatever the frame compares with", () => {
    const bridge = computeBridge(
      {
        key: "b",
        kind: "bridge",
        kpi: "turnover",
        from: "prior-year",
        by: { kind: "member", ...SHOP },
        order: "effect",
        top: null,
        hasSubtotals: false,
      },
      {},
      question,
    );
    expect(bridge.steps.map(({ name, kind, value: step }) => [name, kind, step])).toEqual([
      ["Gate", "step", 140],
      ["Quay", "step", 0],
      ["Mill", "gone", -3500],
    ]);
  });

  it("is there in growth, heat grids and charts over a time in which it lived", () => {
    const growth = computeGrowth(
      { key: "g", kind: "growth", kpi: "turnover", on: "prior-year", ranges: null, by: { kind: "member", ...SHOP } },
      {},
      question,
    );
    expect(growth.points.find(({ name }) => name === "Mill")).toMatchObject({
      before: { value: 3500 },
      growth: { detail: expect.stringContaining("Mill did not exist") as string },
      judgement: null,
    });
    const heat = { key: "h", kind: "heat", kpi: "turnover", shade: "value", years: 2 } as const;
    const grid = computeHeat({ ...heat, rows: { kind: "member", ...SHOP }, columns: { kind: "year" } }, {}, question);
    expect(grid.rows.entries.map(({ name }) => name)).toContain("Mill");
    const [before, after] = grid.cells[grid.rows.entries.findIndex(({ key }) => key === "mill")]!;
    expect([before!.actual, after]).toMatchObject([
      { value: 3500 },
      // It is not 100 % below: it is gone, which is neither good nor bad.
      {
        actual: { detail: expect.stringContaining("Mill did not exist in April–October FY27") as string },
        variance: { judgement: null },
      },
    ]);
    const chart = computeTimeChart(
      { key: "c", kind: "time-chart", kpi: "turnover", split: SHOP, grain: "month", last: 24 },
      {},
      question,
    );
    const whole = chart.points.reduce((sum, { actual }) => sum + value(actual), 0);
    const parts = chart.parts.flatMap(({ figures }) => figures).reduce((sum, figure) => sum + value(figure), 0);
    expect(chart.parts.map(({ name }) => name)).toContain("Mill");
    expect(parts).toBeCloseTo(whole, 6);
  });
});
