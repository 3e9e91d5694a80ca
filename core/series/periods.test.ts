import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isoWeek, weekday } from "../calendar/days.ts";
import { monthOf, monthsBetween } from "../calendar/month.ts";
import { compareKpi } from "../compare/compare-kpi.ts";
import type { Frame } from "../compare/frame.ts";
import { measureOver } from "../compare/measure.ts";
import { ACTUAL } from "../compare/side.ts";
import { dayWindow, monthWindow } from "../compare/window.ts";
import { isPresent } from "../figures/figure.ts";
import { timeSeries } from "../panels/time-chart/time-series.ts";
import { contextOf, kpiOf, run, type SmallFact } from "../testing/small-company.ts";
import { GRAINS } from "./grain.ts";
import { periodsOf, wholePeriods } from "./periods.ts";

const days = (count: number): SmallFact[] =>
  Array.from({ length: count }, (_, i) => ({
    dataset: "daily",
    scenario: "actual",
    account: "loaves",
    month: monthOf(2026, 4),
    day: i + 1,
    amount: 100 * (i + 1),
  }));
const calendar = { startMonth: 4 };
const asOf = monthOf(2026, 10);
const months = monthsBetween(monthOf(2026, 4), monthOf(2027, 3));

describe("periods", () => {
  it("are whole ones of the fiscal year, or days and weeks up to the as-of month", () => {
    const keys = (grain: (typeof GRAINS)[number], last?: number) =>
      periodsOf(grain, { calendar, asOf, months, last }).map(({ key }) => key);
    expect(keys("month")).toHaveLength(12);
    expect(keys("quarter").slice(-2)).toEqual(["FY27-Q3", "FY27-Q4"]);
    expect(keys("year")).toEqual(["FY23", "FY24", "FY25", "FY26", "FY27"]);
    expect(keys("day", 3)).toEqual(["2026-10-29", "2026-10-30", "2026-10-31"]);
    expect(keys("week").at(-1)).toBe("2026-W43");
    expect(keys("month", 3)).toEqual(["2027-01", "2027-02", "2027-03"]);
  });
  it("count as many as are asked for, each once, in order", () => {
    fc.assert(
      fc.property(fc.constantFrom(...GRAINS), fc.integer({ min: 1, max: 400 }), (grain, last) => {
        const periods = periodsOf(grain, { calendar, asOf, months, last });
        expect(periods.length).toBe(Math.min(last, grain === "year" ? 40 : grain === "quarter" ? 160 : 400));
        expect(new Set(periods.map(({ key }) => key)).size).toBe(periods.length);
        for (const [i, period] of periods.entries())
          if (i > 0) expect(period.from).toBeGreaterThanOrEqual(periods[i - 1]!.from);
      }),
    );
  });
  it("begin weeks with the company's first day, and name those that ISO 8601 does not number", () => {
    const calendar = { startMonth: 4, weekStart: 7 };
    const weeks = wholePeriods("week", calendar, monthOf(2026, 10), monthOf(2026, 10));
    // October 2026 begins on a Thursday: its first Sunday is the 4th.
    expect(weeks.map(({ key }) => key)).toEqual(
      [4, 11, 18, 25].map((day) => `2026-10-${String(day).padStart(2, "0")}-week`),
    );
    expect(weeks[0]).toMatchObject({ name: "week from 4 October 2026 to 10 Oct", short: "4 Oct" });
    expect(wholePeriods("week", { startMonth: 4 }, monthOf(2026, 10), monthOf(2026, 10))[0]).toMatchObject({
      key: "2026-W41",
      name: "week 41 of 2026, 5 Oct–11 Oct",
    });
  });
  it("number weeks as ISO 8601 does", () => {
    const week = (year: number, month: number, day: number) => isoWeek({ month: monthOf(year, month), day });
    expect([week(2026, 1, 1), week(2027, 1, 1), week(2024, 12, 30)]).toEqual([
      { year: 2026, week: 1 },
      { year: 2026, week: 53 },
      { year: 2025, week: 1 },
    ]);
    expect(weekday({ month: asOf, day: 1 })).toBe(4);
  });
});

describe("a KPI by another grain", () => {
  const ledger = contextOf(
    run(
      "actual",
      "bread",
      monthOf(2026, 4),
      Array.from({ length: 7 }, (_, i) => 100 * (i + 1)),
    ),
  );
  const frame: Frame = { asOf, span: { kind: "year-to-date" }, basis: { kind: "prior-year" }, scope: {} };
  const seriesOf = (grain: (typeof GRAINS)[number]) => {
    const kpi = kpiOf("turnover");
    const periods = periodsOf(grain, { calendar: ledger.calendar, asOf, months });
    return timeSeries(kpi, frame, compareKpi(kpi, frame, ledger), ledger, periods);
  };
  const values = (grain: (typeof GRAINS)[number]) =>
    seriesOf(grain).points.flatMap(({ actual }) => (isPresent(actual) ? [actual.value] : []));
  it("has months that sum to quarters, and quarters to years", () => {
    const total = (all: readonly number[]) => all.reduce((sum, value) => sum + value, 0);
    expect(values("quarter").slice(-3)).toEqual([6, 15, 7]);
    expect(total(values("month"))).toBe(total(values("quarter")));
    expect(values("year")).toEqual([28]);
  });
  it("has no days where facts are kept by month, and says so", () => {
    const [first] = seriesOf("day").points;
    expect(first!.actual).toMatchObject({
      absent: "not covered",
      detail: expect.stringContaining("kept by month") as string,
    });
  });
  it("has days that sum to their month, over the turn of a month too, and none that is not there", () => {
    const kpi = kpiOf("output");
    const april = monthOf(2026, 4);
    const context = contextOf(days(20));
    const sum = (window: Parameters<typeof measureOver>[2]) => measureOver(kpi, ACTUAL, window, context).figure;
    const each = Array.from({ length: 20 }, (_, i) =>
      sum(dayWindow({ month: april, day: i + 1 }, { month: april, day: i + 1 })),
    );
    const some = sum(dayWindow({ month: april, day: 3 }, { month: april, day: 9 }));
    expect(each.filter((figure) => !isPresent(figure))).toEqual([]);
    expect(isPresent(some) && some.value).toBe(
      each.slice(2, 9).reduce((all, day) => all + (isPresent(day) ? day.value : 0), 0),
    );
    expect(sum(dayWindow({ month: april, day: 18 }, { month: april, day: 24 }))).toHaveProperty("absent");
    expect(sum(monthWindow(april))).toHaveProperty("absent");
  });
});
