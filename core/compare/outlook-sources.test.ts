import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { forecastHistory } from "../ahead/forecast-history.ts";
import { historyOf } from "../ahead/history.ts";
import { monthOf } from "../calendar/month.ts";
import { isPresent } from "../figures/figure.ts";
import { contextOf, kpiFrom, kpiOf, run } from "../testing/small-company.ts";
import type { Frame } from "./frame.ts";
import { measureOver } from "./measure.ts";
import { gapPerMonth, outlookNote, outlookOf } from "./outlook.ts";

/** Every source of an outlook beside what a sheet of paper gives, over random years and as-of months. */
const START = monthOf(2023, 4);
const YEAR = START + 36;
const frameAt = (at: number): Frame => ({
  asOf: YEAR + at,
  span: { kind: "month" },
  basis: { kind: "scenario", scenario: "budget" },
  scope: {},
});
const amounts = (count: number) => fc.array(fc.integer({ min: 1, max: 1e7 }), { minLength: count, maxLength: count });
const sum = (values: readonly number[]) => values.reduce((all, value) => all + value, 0);
const valueAt = (kpi: ReturnType<typeof kpiOf>, at: number, from: string, context: ReturnType<typeof contextOf>) => {
  const { figure } = outlookOf(kpi, frameAt(at), context, from);
  return isPresent(figure) ? figure.value : null;
};

describe("the sources of an outlook", () => {
  it("carry on the pace to date by the season of the prior years, or the prior year as it grew", () => {
    fc.assert(
      fc.property(amounts(36), amounts(12), amounts(12), fc.integer({ min: 0, max: 10 }), (past, now, budget, at) => {
        const context = contextOf([
          ...run("actual", "bread", START, [...past, ...now.slice(0, at + 1)]),
          ...run("budget", "bread", YEAR, budget),
        ]);
        const toDate = sum(now.slice(0, at + 1));
        const yearOf = (back: number) => past.slice(36 - 12 * back, 48 - 12 * back);
        const paceOf = (years: readonly number[]) => {
          const [closed, rest] = [
            years.map((y) => sum(yearOf(y).slice(0, at + 1))),
            years.map((y) => sum(yearOf(y).slice(at + 1))),
          ];
          return (toDate + (sum(rest) * toDate) / sum(closed)) / 100;
        };
        expect(valueAt(kpiOf("turnover"), at, "prior-year", context)).toBeCloseTo(paceOf([1]), 4);
        expect(valueAt(kpiOf("turnover"), at, "run-rate", context)).toBeCloseTo(paceOf([1, 2, 3]), 4);
        expect(valueAt(kpiOf("turnover"), at, "budget", context)).toBeCloseTo(
          (toDate + sum(budget.slice(at + 1))) / 100,
          6,
        );
        const gap = gapPerMonth({ value: toDate / 100 }, { value: sum(budget) / 100 }, 11 - at);
        expect(isPresent(gap) && gap.value).toBeCloseTo((sum(budget) - toDate) / 100 / (11 - at), 6);
      }),
    );
  });

  it("add up month by month to the whole, so that a bridge to the year's end closes", () => {
    fc.assert(
      fc.property(
        amounts(36),
        amounts(12),
        fc.integer({ min: 0, max: 10 }),
        fc.constantFrom("prior-year", "run-rate", "model"),
        (past, now, at, from) => {
          const context = contextOf(run("actual", "bread", START, [...past, ...now.slice(0, at + 1)]));
          const { figure, monthly } = outlookOf(kpiOf("turnover"), frameAt(at), context, from);
          const rest = monthly!.map((month) => (isPresent(month) ? month.value : NaN));
          expect(rest).toHaveLength(11 - at);
          expect(isPresent(figure) && figure.value).toBeCloseTo(sum(now.slice(0, at + 1)) / 100 + sum(rest), 3);
        },
      ),
      { numRuns: 25 },
    );
  });

  it("forecast by model what a chart that looks ahead shows, as of the same month", () => {
    const season = Array.from({ length: 42 }, (_, t) =>
      Math.round(100_000 + 30_000 * Math.sin((t * Math.PI) / 6) + 500 * t),
    );
    const context = contextOf([
      ...run("actual", "bread", START, season),
      ...run(
        "actual",
        "flour",
        START,
        season.map((value, t) => Math.round(value * (0.5 + 0.02 * Math.sin(t)))),
      ),
    ]);
    const turnover = kpiOf("turnover");
    const ground = { ...context, knownTo: YEAR + 5 };
    const { history } = historyOf(turnover, "month", ground, { measureOver })!;
    const forecast = forecastHistory(history, { horizon: 6 });
    const points = "points" in forecast ? forecast.points : [];
    expect(valueAt(turnover, 5, "model", ground)).toBeCloseTo(sum(season.slice(36)) / 100 + sum(points), 4);
    // A rate comes from its inputs, added up over the year first.
    const margin = kpiOf("margin");
    const made = historyOf(margin, "month", ground, { measureOver })!;
    const ahead = forecastHistory(made.history, { horizon: 6 });
    if (!("points" in ahead)) throw new Error(ahead.notFitted);
    const inputOf = (name: string) => {
      const place = made.history.made!.inputs.findIndex((input) => input.name === name);
      const past = made.history.made!.inputs[place]!.values.slice(36).map((value) => value!);
      return sum(past) + sum(ahead.made.find((one) => one.name === name)!.forecast.points);
    };
    const [sales, cost] = [inputOf("sales"), inputOf("cost")];
    expect(valueAt(margin, 5, "model", ground)).toBeCloseTo((sales - cost) / sales, 8);
  });

  it("say what is missing where they cannot tell", () => {
    const context = contextOf(run("actual", "bread", YEAR, [100, 200, 300]));
    const at = (from: string) => outlookOf(kpiOf("turnover"), frameAt(2), context, from).figure;
    expect(at("prior-year")).toMatchObject({ absent: expect.any(String) as string });
    expect(at("run-rate")).toMatchObject({
      absent: "no base",
      detail: "No prior year is whole: there is no season to go by.",
    });
    expect(at("nobody")).toMatchObject({ detail: 'There is no scenario "nobody" to take the remaining months from.' });
    const grew = contextOf([...run("actual", "bread", START + 24, [...Array.from({ length: 12 }, () => 0), 500])]);
    expect(outlookOf(kpiOf("turnover"), frameAt(0), grew, "prior-year").figure).toMatchObject({ absent: "no base" });
  });

  it("are chosen by the page, or by the formula itself", () => {
    const past = Array.from({ length: 36 }, (_, t) => 1000 + 10 * t);
    const now = [1500, 1500, 1500];
    const context = contextOf([
      ...run("actual", "bread", START, [...past, ...now]),
      ...run(
        "budget",
        "bread",
        YEAR,
        Array.from({ length: 12 }, () => 2000),
      ),
    ]);
    const byPage = { ...context, outlook: "prior-year" };
    const own = outlookOf(kpiOf("turnover"), frameAt(2), byPage);
    expect(own.figure).toEqual(outlookOf(kpiOf("turnover"), frameAt(2), context, "prior-year").figure);
    expect(outlookNote(own)).toBe("3 closed months, then the prior year grown.");
    const formula = (text: string, ground: typeof byPage | typeof context) =>
      measureOver(
        kpiFrom(text),
        { scenario: "actual", shift: 0, name: "Actual" },
        { span: { kind: "month" }, asOf: YEAR + 2, from: YEAR + 2, to: YEAR + 2 },
        ground,
      ).figure;
    expect(formula("outlook(turnover)", byPage)).toEqual(own.figure);
    expect(formula("outlook(turnover)", context)).toEqual({ value: 45 + 180 });
    expect(formula("outlook(turnover, from: prior_year)", context)).toEqual(own.figure);
    expect(formula("outlook(turnover, from: budget)", byPage)).toEqual({ value: 45 + 180 });
  });
});
