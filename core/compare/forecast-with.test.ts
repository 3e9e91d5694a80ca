import type { Scenario } from "../cube/coverage.ts";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { computeOutlook } from "../panels/outlook/compute.ts";
import type { PanelQuestion } from "../panels/panel-question.ts";
import { scenarioSides } from "../panels/parts/scenario-sides.ts";
import { computeTimeChart } from "../panels/time-chart/compute.ts";
import { frameOf, kpiFrom, kpiOf, OCTOBER, run, valueOf } from "../testing/small-company.ts";
import { questionOf } from "../testing/small-question.ts";
import { measureContext } from "../panels/panel-question.ts";
import { compareKpi } from "./compare-kpi.ts";
import { measureOver } from "./measure.ts";
import { ACTUAL } from "./side.ts";
import { monthWindow } from "./window.ts";

const APRIL = OCTOBER - 6;
const same = (amount: number, count = 12) => Array<number>(count).fill(amount);
/** The latest forecast has bread only; the one before it has flour too. */
const facts = [
  ...run("actual", "bread", APRIL - 12, same(2000, 19)),
  ...run("actual", "flour", APRIL - 12, same(1000, 19)),
  ...run("budget", "bread", APRIL, same(2100)),
  ...run("budget", "flour", APRIL, same(900)),
  ...run("forecast-3-9", "bread", APRIL, same(1900)),
  ...run("forecast-3-9", "flour", APRIL, same(1200)),
  ...run("forecast-6-6", "bread", APRIL, same(2500)),
];
const question = withEarlier(questionOf(facts, { basis: "forecast" }));

function withEarlier(of: PanelQuestion): PanelQuestion {
  const { coverage } = of.company;
  const earlier = {
    key: "forecast-3-9",
    name: "Forecast 3+9",
    kind: "forecast",
    madeAfter: monthOf(2026, 6),
  } satisfies Scenario;
  const scenarios = new Map<string, Scenario>([...coverage.scenarios, [earlier.key, earlier]]);
  return { ...of, company: { ...of.company, coverage: { ...coverage, scenarios } } };
}

describe("a forecast that has one KPI only", () => {
  const context = measureContext(question);
  const frame = frameOf("year-to-date", { kind: "latest-forecast" });

  it("leaves others to the latest one that has them, as a basis that is named so", () => {
    const bread = compareKpi(kpiOf("turnover"), frame, context);
    expect([bread.basis.side.name, valueOf(bread.basis.figure), bread.isFallback]).toEqual([
      "Forecast 6+6",
      175,
      false,
    ]);
    const profit = compareKpi(kpiOf("profit"), frame, context);
    expect([profit.basis.side.name, valueOf(profit.basis.figure), profit.isFallback]).toEqual([
      "Forecast 3+9",
      49,
      true,
    ]);
    const cash = compareKpi(kpiOf("cash"), frame, context);
    expect([cash.basis.side.name, valueOf(cash.basis.figure)]).toEqual(["Forecast 6+6", "not covered"]);
  });
  it("in a formula, where each part of it names a forecast, and in charts", () => {
    const at = (formula: string) =>
      valueOf(measureOver(kpiFrom(formula), ACTUAL, monthWindow(OCTOBER), context).figure);
    expect([at("sales@forecast"), at("cost@forecast"), at("(sales - cost)@forecast")]).toEqual([25, 12, 7]);
    expect(scenarioSides(kpiOf("profit"), question).map(({ side }) => side.name)).toContain("Forecast 3+9");
    const chart = computeTimeChart({ key: "c", kind: "time-chart", kpi: "profit" }, {}, question);
    expect([chart.forecastName, valueOf(chart.points.at(-1)!.forecast)]).toEqual(["Forecast 3+9", 7]);
  });
  it("in an outlook, whose source has the name of what is taken", () => {
    const outlook = computeOutlook(
      { key: "o", kind: "outlook", kpi: "profit", sources: ["forecast-6-6"] },
      {},
      question,
    );
    expect(outlook.rows.map(({ name, figure, isTaken }) => [name, valueOf(figure), isTaken])).toEqual([
      ["Forecast 6+6", "not covered", false],
      ["Forecast 3+9", 70 + 5 * 7, true],
    ]);
  });
});
