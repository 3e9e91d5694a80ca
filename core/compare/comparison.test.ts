import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fiscalQuarterStart } from "../calendar/fiscal-calendar.ts";
import { monthOf, monthsBetween } from "../calendar/month.ts";
import { isPresent } from "../figures/figure.ts";
import { coverageNotes } from "../words/coverage-words.ts";
import {
  CALENDAR,
  contextOf,
  kpiOf,
  run,
  TREE,
  type SmallFact,
  BUDGET,
  frameOf,
  OCTOBER,
  valueOf,
} from "../testing/small-company.ts";
import { compareKpi, compareSides } from "./compare-kpi.ts";
import type { Basis } from "./frame.ts";
import { rangeWindow } from "./window.ts";
import { ACTUAL } from "./side.ts";
import { timeSeries } from "../panels/time-chart/time-series.ts";

const APRIL = monthOf(2026, 4);

/** Seven months of actuals, twelve of budget: 100, 200 … 700 against 150 each, in euros. */
const YEAR: SmallFact[] = [
  ...run("actual", "bread", APRIL, [100_00, 200_00, 300_00, 400_00, 500_00, 600_00, 700_00]),
  ...run("actual", "flour", APRIL, [50_00, 50_00, 50_00, 50_00, 50_00, 50_00, 50_00]),
  ...run("actual", "till", APRIL, [1_00, 2_00, 3_00, 4_00, 5_00, 6_00, 7_00]),
  ...run("budget", "bread", APRIL, Array<number>(12).fill(150_00)),
  ...run("budget", "flour", APRIL, Array<number>(12).fill(60_00)),
  ...run("budget", "till", APRIL, Array<number>(12).fill(5_00)),
];

describe("like for like", () => {
  const context = contextOf(YEAR);
  it("compares the span's own months", () => {
    const ytd = compareKpi(kpiOf("turnover"), frameOf("year-to-date"), context);
    expect([valueOf(ytd.actual.figure), valueOf(ytd.basis.figure), valueOf(ytd.variance.delta)]).toEqual([
      2800, 1050, 1750,
    ]);
  });
  it("leaves out months that one side lacks, on both sides", () => {
    const year = compareKpi(kpiOf("turnover"), frameOf("full-year"), context);
    expect([valueOf(year.actual.figure), valueOf(year.basis.figure)]).toEqual([2800, 1050]);
    expect(year.compared).toEqual(monthsBetween(APRIL, OCTOBER));
    expect(year.asked).toEqual(monthsBetween(APRIL, OCTOBER));
  });
  it("aggregates first and computes then", () => {
    const margin = compareKpi(kpiOf("margin"), frameOf("year-to-date"), context);
    expect(valueOf(margin.actual.figure)).toBe((2800 - 350) / 2800);
  });
  it("closes balances at the span's last common month", () => {
    const cash = compareKpi(kpiOf("cash"), frameOf("full-year"), context);
    expect([valueOf(cash.actual.figure), valueOf(cash.basis.figure)]).toEqual([7, 5]);
  });
  it("says that a month is not closed yet", () => {
    const later = compareKpi(kpiOf("turnover"), frameOf("month", BUDGET, OCTOBER + 1), context);
    expect(later.actual.figure).toMatchObject({
      absent: "not closed yet",
      detail: expect.stringContaining("October FY27") as string,
    });
    expect(valueOf(later.basis.figure)).toBe(150);
    expect(valueOf(later.variance.delta)).toBe("not closed yet");
  });
  it("has no base before the first budget, and still an actual", () => {
    const early = contextOf([...YEAR, ...run("actual", "bread", APRIL - 1, [90_00])]);
    const march = compareKpi(kpiOf("turnover"), frameOf("month", BUDGET, APRIL - 1), early);
    expect([valueOf(march.actual.figure), valueOf(march.basis.figure), valueOf(march.variance.delta)]).toEqual([
      90,
      "no data",
      "no base",
    ]);
  });
  it("counts an account that the budget does not have as 0 there, and says so", () => {
    const unplanned = contextOf([...YEAR, ...run("actual", "rent", APRIL, [0, 0, 0, 0, 0, 0, 30_00])]);
    const profit = compareKpi(kpiOf("profit"), frameOf("month"), unplanned);
    expect([valueOf(profit.actual.figure), valueOf(profit.basis.figure), valueOf(profit.variance.delta)]).toEqual([
      620, 90, 530,
    ]);
    expect(coverageNotes(profit, { calendar: CALENDAR, accounts: TREE, fallbackFrom: null })).toEqual([
      "Budget has nothing for rent: it counts as 0 there.",
    ]);
  });
  it("says that a scenario does not have a KPI at all", () => {
    const none = compareKpi(
      kpiOf("output"),
      frameOf("month"),
      contextOf([...YEAR, ...run("actual", "loaves", OCTOBER, [5])]),
    );
    expect(none.basis.figure).toMatchObject({ absent: "not covered", detail: "Budget has no loaves." });
  });
  it("knows no forecast before the first was made", () => {
    const facts = [...YEAR, ...run("forecast-6-6", "bread", APRIL, Array<number>(12).fill(99_00))];
    const at = (asOf: number) =>
      compareKpi(kpiOf("turnover"), frameOf("month", { kind: "latest-forecast" }, asOf), contextOf(facts));
    expect(valueOf(at(monthOf(2026, 8)).basis.figure)).toBe("not covered");
    expect(valueOf(at(monthOf(2026, 9)).basis.figure)).toBe(99);
  });
  it("does not show what a scope cannot tell apart", () => {
    const scoped = contextOf(YEAR, { scope: { shop: ["mill"] }, depth: () => 1 });
    expect(compareKpi(kpiOf("turnover"), frameOf("month"), scoped).actual.figure).toMatchObject({
      absent: "not covered",
      detail: expect.stringContaining("by shop") as string,
    });
  });
});

describe("sides that differ in what they keep by a dimension", () => {
  it("are not compared", () => {
    const facts = [
      ...YEAR,
      ...run("actual", "cake", APRIL, Array<number>(7).fill(1_00)),
      ...run("budget", "cake", APRIL, Array<number>(12).fill(1_00)),
    ];
    const at = (depth: (f: SmallFact) => number) =>
      compareKpi(kpiOf("turnover"), frameOf("month"), contextOf(facts, { scope: { shop: ["mill"] }, depth }));
    const both = at((f) => (f.account === "cake" ? 0 : 2));
    expect([valueOf(both.actual.figure), valueOf(both.basis.figure)]).toEqual([700, 150]);
    expect(coverageNotes(both, { calendar: CALENDAR, accounts: TREE, fallbackFrom: null })).toEqual([
      "Not kept in this scope, so left out: cake.",
    ]);
    const one = at((f) => (f.account === "cake" && f.scenario === "budget" ? 0 : 2));
    expect(one.basis.figure).toMatchObject({
      absent: "not covered",
      detail: "cake is not kept by Actual and Budget alike in this scope.",
    });
    expect(valueOf(one.variance.delta)).toBe("no base");
  });
});

describe("facts kept by quarter", () => {
  const facts = [
    ...YEAR,
    ...run("actual", "loaves", APRIL, [10, 10, 10, 10, 10, 10, 10]),
    ...run("actual", "good_loaves", APRIL, [9, 9, 9, 9, 9, 9, 6]),
    ...[0, 3, 6, 9].flatMap((q) => [
      ...run("target", "loaves", APRIL + q, [100], "targets"),
      ...run("target", "good_loaves", APRIL + q, [80 + q], "targets"),
      ...run("target", "bread", APRIL + q, [900_00], "targets"),
    ]),
  ];
  const context = contextOf(facts);
  const TARGET: Basis = { kind: "scenario", scenario: "target" };
  it("come only as whole quarters where they are sums", () => {
    const ytd = compareKpi(kpiOf("turnover"), frameOf("year-to-date", TARGET), context);
    expect([valueOf(ytd.basis.figure), valueOf(ytd.variance.delta)]).toEqual([1800, 2100 - 1800]);
    expect(valueOf(ytd.actual.figure)).toBe(2800);
    expect(ytd.compared).toHaveLength(6);
    expect(compareKpi(kpiOf("turnover"), frameOf("month", TARGET), context).basis.figure).toMatchObject({
      absent: "not covered",
    });
  });
  it("are no target for a whole of which they name only a part", () => {
    const more = contextOf([...facts, ...run("actual", "cake", APRIL, [1, 1, 1, 1, 1, 1, 1])]);
    const ytd = compareKpi(kpiOf("turnover"), frameOf("year-to-date", TARGET), more);
    expect(ytd.basis.figure).toMatchObject({
      absent: "not covered",
      detail: expect.stringContaining("only part of sales") as string,
    });
    expect(valueOf(ytd.variance.delta)).toBe("no base");
  });
  it("hold in each of their months where they are rates", () => {
    const october = compareKpi(kpiOf("quality"), frameOf("month", TARGET), context);
    expect([valueOf(october.actual.figure), valueOf(october.basis.figure)]).toEqual([0.6, 0.86]);
    const ytd = compareKpi(kpiOf("quality"), frameOf("year-to-date", TARGET), context);
    expect(valueOf(ytd.basis.figure)).toBe((80 + 83 + 86) / 300);
    expect(ytd.compared).toHaveLength(7);
  });
  it("are drawn in the chart as the quarter's rate, and not as parts of a sum", () => {
    const f = frameOf("year-to-date", TARGET);
    const points = (key: string) => timeSeries(kpiOf(key), f, compareKpi(kpiOf(key), f, context), context).points;
    expect(
      points("quality")
        .map((p) => valueOf(p.target))
        .slice(0, 4),
    ).toEqual([0.8, 0.8, 0.8, 0.83]);
    expect(points("turnover").every((p) => !isPresent(p.target))).toBe(true);
  });
});

describe("month to date", () => {
  const daily = (month: number, days: number, perDay: number): SmallFact[] =>
    Array.from({ length: days }, (_, i) => ({
      dataset: "daily",
      scenario: "actual",
      account: "loaves",
      month,
      day: i + 1,
      amount: perDay,
    }));
  const facts = [...daily(monthOf(2026, 9), 30, 2), ...daily(OCTOBER, 31, 3), ...daily(OCTOBER + 1, 17, 5)];
  it("takes the same days of the month before, the as-of day included", () => {
    const context = contextOf(facts);
    const mtd = compareKpi(kpiOf("output"), frameOf("month-to-date", { kind: "prior-period" }, OCTOBER + 1), context);
    expect([valueOf(mtd.actual.figure), valueOf(mtd.basis.figure)]).toEqual([85, 51]);
  });
  it("takes at most the length of the shorter month", () => {
    const mtd = compareKpi(
      kpiOf("output"),
      frameOf("month-to-date", { kind: "prior-period" }, OCTOBER),
      contextOf(facts),
    );
    expect([valueOf(mtd.actual.figure), valueOf(mtd.basis.figure)]).toEqual([93, 60]);
  });
  it("does not count a month with days missing as closed", () => {
    const month = compareKpi(
      kpiOf("output"),
      frameOf("month", { kind: "prior-period" }, OCTOBER + 1),
      contextOf(facts),
    );
    expect(month.actual.figure).toMatchObject({
      absent: "not closed yet",
      detail: expect.stringContaining("to day 17") as string,
    });
  });
  it("says that monthly facts cannot tell days", () => {
    const mtd = compareKpi(kpiOf("turnover"), frameOf("month-to-date"), contextOf(YEAR));
    expect(mtd.actual.figure).toMatchObject({
      absent: "not covered",
      detail: expect.stringContaining("daily") as string,
    });
  });
});

describe("identities", () => {
  const amounts = fc.array(fc.integer({ min: -1e9, max: 1e9 }), { minLength: 12, maxLength: 12 });
  const figureOf = (facts: readonly SmallFact[], key: string, months: readonly number[]) =>
    valueOf(compareSides(kpiOf(key), ACTUAL, ACTUAL, rangeWindow(months), contextOf(facts)).actual.figure) as number;
  const cents = (euros: number) => Math.round(euros * 100);

  it("months sum to quarters, quarters to years, children to parents", () => {
    fc.assert(
      fc.property(amounts, amounts, (bread, cake) => {
        const facts = [...run("actual", "bread", APRIL, bread), ...run("actual", "cake", APRIL, cake)];
        const year = monthsBetween(APRIL, APRIL + 11);
        const total = cents(figureOf(facts, "turnover", year));
        const sum = (parts: readonly (readonly number[])[]) =>
          parts.reduce((s, months) => s + cents(figureOf(facts, "turnover", months)), 0);
        expect(sum(year.map((m) => [m]))).toBe(total);
        const quarters = [...new Set(year.map((m) => fiscalQuarterStart(CALENDAR, m)))].map((q) => [q, q + 1, q + 2]);
        expect(sum(quarters)).toBe(total);
        expect(bread.concat(cake).reduce((a, b) => a + b, 0)).toBe(total);
      }),
      { numRuns: 60 },
    );
  });
  it("the order of facts changes nothing", () => {
    fc.assert(
      fc.property(amounts, fc.array(fc.nat(), { minLength: 12, maxLength: 12 }), (bread, keys) => {
        const facts = run("actual", "bread", APRIL, bread);
        const shuffled = facts
          .map((fact, i) => ({ fact, key: keys[i]! }))
          .sort((a, b) => a.key - b.key)
          .map((x) => x.fact);
        const year = monthsBetween(APRIL, APRIL + 11);
        expect(figureOf(shuffled, "turnover", year)).toBe(figureOf(facts, "turnover", year));
      }),
      { numRuns: 40 },
    );
  });
  it("Δ of the span is the sum of its months' Δ, and of the parts of a formula", () => {
    fc.assert(
      fc.property(amounts, amounts, amounts, amounts, (a, b, c, d) => {
        const context = contextOf([
          ...run("actual", "bread", APRIL, a),
          ...run("budget", "bread", APRIL, b),
          ...run("actual", "flour", APRIL, c),
          ...run("budget", "flour", APRIL, d),
        ]);
        const march = APRIL + 11;
        const whole = valueOf(
          compareKpi(kpiOf("profit"), frameOf("year-to-date", BUDGET, march), context).variance.delta,
        ) as number;
        const { points } = timeSeries(
          kpiOf("profit"),
          frameOf("year-to-date", BUDGET, march),
          compareKpi(kpiOf("profit"), frameOf("year-to-date", BUDGET, march), context),
          context,
        );
        expect(points.reduce((sum, p) => sum + cents(valueOf(p.variance.delta) as number), 0)).toBe(cents(whole));
        expect(cents(whole)).toBe(a.reduce((s, x, i) => s + x - b[i]! - c[i]! + d[i]!, 0));
      }),
      { numRuns: 40 },
    );
  });
});
