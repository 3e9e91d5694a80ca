import { describe, expect, it } from "vitest";
import type { Dimension } from "../dimensions/dimension.ts";
import { isPresent } from "../figures/figure.ts";
import { kpiFrom, OCTOBER, type SmallFact } from "../testing/small-company.ts";
import { questionOf, YEAR_TO_DATE } from "../testing/small-question.ts";
import { computeBridge } from "./bridge/compute.ts";
import { computeGrowth } from "./growth/compute.ts";
import { computeHeat } from "./heat/compute.ts";
import { inMember } from "../compare/measure-ground.ts";
import { measureOver } from "../compare/measure.ts";
import { ACTUAL } from "../compare/side.ts";
import { spanWindow } from "../compare/window.ts";
import type { FrameQuery } from "../frame/schema.ts";
import { computeBreakdown } from "./breakdown/compute.ts";
import { crossCells } from "./cross-tab/cells.ts";
import { measureContext, type PanelQuestion } from "./panel-question.ts";
import { computeMemberRows } from "./scorecard/compute.ts";
import { computeShare } from "./share/compute.ts";
import { computeTiles } from "./tiles/compute.ts";
import { computeTimeChart } from "./time-chart/compute.ts";
import type { Figure } from "../figures/schema.ts";

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
function afterTheMill(frame: FrameQuery = {}): PanelQuestion {
  const plain = questionOf(facts, frame);
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

describe("a member that is gone, compared with a time in which it lived", () => {
  const prior = afterTheMill({ basis: "prior-year" });
  const MILL_DEAD = "Mill did not exist in April–October FY27.";
  const of = <T extends { readonly name: string }>(all: readonly T[], name: string) =>
    all.find((one) => one.name === name);

  it("leads no breakdown, is no part of a share, and is told apart with what it had", () => {
    const breakdown = computeBreakdown(
      {
        key: "b",
        kind: "breakdown",
        kpis: ["turnover"],
        by: SHOP,
        order: "variance",
        isReversed: true,
        top: null,
        stacking: "clustered",
        cluster: null,
      },
      {},
      prior,
    );
    expect(breakdown.rows.map(({ name }) => name)).not.toContain("Mill");
    expect(breakdown.headline).toBe("turnover by shop: Gate is € 140 (20.0%) above Prior year, favourable.");
    expect(of(breakdown.absent, "Mill")!.reason).toBe("did not exist in April–October FY27. Prior year: € 4k.");
    const share = computeShare(
      { key: "s", kind: "share", kpi: "turnover", by: SHOP, of: "whole", shape: "ring" },
      {},
      prior,
    );
    expect([of(share.parts, "Mill"), of(share.absent, "Mill")!.reason]).toEqual([
      undefined,
      "did not exist in April–October FY27. Prior year: € 4k.",
    ]);
  });
  it("is judged nowhere: not on tiles, in rows of a scorecard, nor in cross-tabs", () => {
    const { tiles, message } = computeTiles(
      {
        key: "t",
        kind: "tiles",
        kpis: ["turnover"],
        repeatBy: SHOP,
        order: "set",
        isReversed: false,
        top: null,
        figures: ["month", "prior-year"],
      },
      {},
      prior,
    );
    const tile = tiles.find(({ member }) => member?.name === "Mill")!;
    expect(tile.row).toMatchObject({
      actual: { detail: MILL_DEAD },
      basis: { value: 3500 },
      variance: { judgement: null },
    });
    expect(tile.figures.map(({ variance }) => variance.judgement)).toEqual(tile.figures.map(() => null));
    expect(message).not.toContain("Mill");
    const { rows } = computeMemberRows(
      { key: "c", kind: "scorecard", groups: [{ title: "", kpis: ["turnover"] }], expandBy: "shop" },
      { kpi: "turnover", parent: "north" },
      prior,
    );
    expect(rows.find(({ member }) => member.name === "Mill")!.row.variance.judgement).toBeNull();
    const ground = measureContext(prior);
    const cells = crossCells(prior, {
      kpi: "turnover",
      whole: spanWindow(ground, prior.asked.frame.span, OCTOBER),
      isCompared: true,
    });
    const line = (members: Record<string, string[]>) => ({
      at: [0],
      reach: { members, kpi: null, scenario: null, window: null },
    });
    expect(cells(line({ shop: ["mill"] }), line({}))).toMatchObject({
      value: { detail: MILL_DEAD },
      basis: { value: 3500 },
      variance: { judgement: null },
    });
    expect(cells(line({}), line({ shop: ["gate"] })).variance.judgement).toBe("favourable");
  });
  it("is absent where a formula names it alone, and not where the formula looks past it", () => {
    const ground = measureContext(prior);
    const at = (formula: string, context = ground) =>
      measureOver(kpiFrom(formula), ACTUAL, spanWindow(context, prior.asked.frame.span, OCTOBER), context).figure;
    expect(at('only(sales, shop: "Mill")')).toMatchObject({ detail: MILL_DEAD });
    expect(value(at('prior_year(only(sales, shop: "Mill"))'))).toBe(3500);
    expect(value(at('only(sales, shop: ["Mill", "Gate"])'))).toBe(840);
    const mill = inMember(ground, "shop", "mill", { shop: ["mill"] });
    expect([at("sales", mill), value(at("ignoring(sales, shop)", mill))]).toMatchObject([{ detail: MILL_DEAD }, 840]);
    // What was planned for it stands; a page that is but narrowed to it shows what there is.
    expect(value(at("sales@budget", inMember(ground, "shop", "gate", { shop: ["gate"] })))).toBe(770);
    expect(at("sales", { ...ground, scope: { shop: ["mill"] } })).toEqual({ value: 0 });
  });
});
