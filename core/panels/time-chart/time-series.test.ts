import { describe, expect, it } from "vitest";
import { formatMonth, monthOf } from "../../calendar/month.ts";
import { parseSpan } from "../../calendar/span.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import type { Frame } from "../../compare/frame.ts";
import { isPresent } from "../../figures/figure.ts";
import { contextOf, kpiOf, run } from "../../testing/small-company.ts";
import { periodsOf } from "../../series/periods.ts";
import { seriesMonths, timeSeries } from "./time-series.ts";
import type { Figure } from "../../figures/schema.ts";

const APRIL = monthOf(2026, 4);
const value = (figure: Figure) => (isPresent(figure) ? figure.value : figure.absent);
const context = contextOf([
  ...run(
    "actual",
    "bread",
    APRIL - 12,
    Array.from({ length: 19 }, (_, i) => (i + 1) * 100),
  ),
  ...run("budget", "bread", APRIL, Array<number>(12).fill(1500)),
  ...run("forecast-6-6", "bread", APRIL, Array<number>(12).fill(1700)),
]);
const frameOf = (
  span: string,
  asOf = monthOf(2026, 10),
  basis: Frame["basis"] = { kind: "scenario", scenario: "budget" },
): Frame => ({ asOf, span: parseSpan(span)!, basis, scope: {} });
const seriesOf = (frame: Frame) =>
  timeSeries(kpiOf("turnover"), frame, compareKpi(kpiOf("turnover"), frame, context), context);

describe("a KPI over time", () => {
  it("shows the fiscal year, and the span where it begins earlier", () => {
    expect(seriesMonths(context.calendar, frameOf("year-to-date")).map(formatMonth)).toHaveLength(12);
    expect(formatMonth(seriesMonths(context.calendar, frameOf("trailing-12"))[0]!)).toBe("2025-11");
  });
  it("goes on with the forecast where actuals end", () => {
    const { points, closedTo, forecastName } = seriesOf(frameOf("year-to-date"));
    expect([closedTo!.key, forecastName]).toEqual(["2026-10", "Forecast 6+6"]);
    expect(points.map((p) => isPresent(p.actual))).toEqual([
      ...Array<boolean>(7).fill(true),
      ...Array<boolean>(5).fill(false),
    ]);
    expect(points.map((p) => isPresent(p.forecast))).toEqual([
      ...Array<boolean>(7).fill(false),
      ...Array<boolean>(5).fill(true),
    ]);
    expect(points.map((p) => value(p.variance.delta)).slice(5, 9)).toEqual([3, 4, 2, 2]);
    expect(points[8]!.varianceOf).toBe("forecast");
  });
  it("does not show what came after the as-of month, nor a forecast that was not made by then", () => {
    const { points, closedTo, forecastName } = seriesOf(frameOf("year-to-date", monthOf(2026, 7)));
    expect([closedTo!.key, forecastName]).toEqual(["2026-07", null]);
    expect(points.filter((p) => isPresent(p.actual))).toHaveLength(4);
    expect(value(points[4]!.actual)).toBe("not closed yet");
  });
  it("reads the prior year and the period before past the window's left edge", () => {
    const { points } = seriesOf(frameOf("month", monthOf(2026, 10), { kind: "prior-period" }));
    expect(value(points[0]!.priorYear)).toBe(1);
    expect(value(points[0]!.variance.delta)).toBe(1);
  });
  it("marks the months of the span", () => {
    expect(
      seriesOf(frameOf("quarter-to-date", monthOf(2026, 8)))
        .points.filter((p) => p.inSpan)
        .map((p) => p.period.key),
    ).toEqual(["2026-07", "2026-08"]);
  });
  it("shows a quarter that is partly closed as far as it is, on every side", () => {
    const frame = frameOf("year-to-date");
    const { calendar } = context;
    const periods = periodsOf("quarter", { calendar, asOf: frame.asOf, months: [], last: 4 });
    const comparison = compareKpi(kpiOf("turnover"), frame, context);
    const { points } = timeSeries(kpiOf("turnover"), frame, comparison, context, periods);
    const [, second, third, fourth] = points;
    expect([third!.period.name, third!.period.key]).toEqual(["Q3 FY27, October only", "FY27-Q3"]);
    expect([third!.actual, third!.budget, third!.priorYear].map(value)).toEqual([19, 15, 7]);
    expect(value(third!.variance.delta)).toBe(4);
    expect([value(second!.budget), value(fourth!.budget), value(fourth!.forecast)]).toEqual([45, 45, 51]);
  });
});
