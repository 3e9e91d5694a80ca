import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { isPresent } from "../figures/figure.ts";
import { contextOf, kpiFrom, kpiOf, run } from "../testing/small-company.ts";
import { compareKpi } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { kpiStatus } from "./kpi-status.ts";
import { gapPerMonth, outlookOf } from "./outlook.ts";

const APRIL = monthOf(2026, 4);
const OCTOBER = monthOf(2026, 10);
const frame = (asOf = OCTOBER, scenario = "budget"): Frame => ({
  asOf,
  span: { kind: "month" },
  basis: { kind: "scenario", scenario },
  scope: {},
});
const months = (count: number, amount: number) => Array.from({ length: count }, () => amount);
const FACTS = [
  ...run("actual", "bread", APRIL, months(7, 1000)),
  ...run("actual", "flour", APRIL, months(7, 400)),
  ...run("actual", "till", APRIL, [100, 200, 300, 400, 500, 600, 700]),
  ...run("budget", "bread", APRIL, months(12, 900)),
  ...run("budget", "flour", APRIL, months(12, 300)),
  ...run("budget", "till", APRIL, months(12, 5000)),
  ...run("forecast-6-6", "bread", APRIL, months(12, 1100)),
];

describe("the outlook", () => {
  it("is the actual to date and the latest forecast for the rest, against the whole basis", () => {
    const found = outlookOf(kpiOf("turnover"), frame(), contextOf(FACTS));
    expect(found.figure).toEqual({ value: 7 * 10 + 5 * 11 });
    expect([found.source?.name, found.basis]).toEqual(["Forecast 6+6", { value: 108 }]);
    expect(found.variance).toMatchObject({ delta: { value: 17 }, judgement: "favourable" });
  });
  it("takes the budget where no forecast has it, closes balances at the end, and calculates rates from whole inputs", () => {
    const context = contextOf(FACTS);
    expect(outlookOf(kpiOf("profit"), frame(), context)).toMatchObject({
      figure: { value: 7 * 6 + 5 * 6 },
      source: { name: "Budget" },
    });
    expect(outlookOf(kpiOf("cash"), frame(), context).figure).toEqual({ value: 50 });
    const margin = outlookOf(kpiOf("margin"), frame(), context).figure;
    expect(isPresent(margin) && margin.value).toBeCloseTo((7 * 6 + 5 * 6) / (7 * 10 + 5 * 9), 12);
  });
  it("is the year itself once it is closed, and absent where a month of it is not covered", () => {
    const closed = contextOf(run("actual", "bread", APRIL, months(12, 1000)));
    expect(outlookOf(kpiOf("turnover"), frame(APRIL + 11), closed)).toMatchObject({
      figure: { value: 120 },
      source: null,
    });
    const late = contextOf(FACTS.filter((f) => f.scenario !== "actual" || f.month !== APRIL));
    expect(outlookOf(kpiOf("turnover"), frame(), late).figure).toMatchObject({ absent: "not covered" });
    expect(outlookOf(kpiFrom("prior_year(turnover)"), frame(), contextOf(FACTS)).figure).toMatchObject({
      absent: "not covered",
    });
  });
  it("equals the actual to date plus the remainder, whatever the amounts and the month", () => {
    const amounts = fc.array(fc.integer({ min: -1e8, max: 1e8 }), { minLength: 12, maxLength: 12 });
    fc.assert(
      fc.property(amounts, amounts, fc.integer({ min: 0, max: 11 }), (actual, budget, at) => {
        const context = contextOf([
          ...run("actual", "bread", APRIL, actual.slice(0, at + 1)),
          ...run("budget", "bread", APRIL, budget),
        ]);
        const { figure } = outlookOf(kpiOf("turnover"), frame(APRIL + at), context);
        const cents = [...actual.slice(0, at + 1), ...budget.slice(at + 1)].reduce((s, a) => s + a, 0);
        expect(isPresent(figure) && Math.round(figure.value * 100)).toBe(cents);
      }),
    );
  });
  it("knows the gap per remaining month", () => {
    expect(gapPerMonth({ value: 70 }, { value: 120 }, 5)).toEqual({ value: 10 });
    expect(gapPerMonth({ value: 70 }, { value: 120 }, 0)).toMatchObject({ absent: "no base" });
  });
});

describe("the status of a KPI in a frame", () => {
  const graded = (against: string) => {
    const kpi = kpiOf("turnover");
    const bands = [
      { from: null, to: 105, grade: "poor" as const, word: "low" },
      { from: 105, to: null, grade: "good" as const, word: "high" },
    ];
    const rule = ["basis", "target", "value"].includes(against)
      ? { kind: against as "basis" }
      : { kind: "kpi" as const, kpi: against };
    return { ...kpi, definition: { ...kpi.definition, status: { against: rule, shownAs: "bands" as const, bands } } };
  };
  const statusAt = (against: string) => {
    const context = contextOf(FACTS);
    const kpi = graded(against);
    const library = new Map([["profit", kpiOf("profit")]]);
    return kpiStatus(kpi, compareKpi(kpi, frame(), context), frame(), context, library);
  };
  it("is held against basis, target, its own value or another KPI", () => {
    expect(statusAt("basis")).toMatchObject({ grade: "good" });
    expect(statusAt("target")).toMatchObject({ absent: "no base" });
    expect(statusAt("value")).toMatchObject({ grade: "poor" });
    expect(statusAt("profit")).toMatchObject({ grade: "good" });
    expect(statusAt("gone")).toMatchObject({ absent: "no base" });
  });
});
