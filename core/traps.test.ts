import { describe, expect, it } from "vitest";
import { monthOf } from "./calendar/month.ts";
import { parseSpan } from "./calendar/span.ts";
import { compareKpi } from "./compare/compare-kpi.ts";
import type { Frame } from "./compare/frame.ts";
import { tileFigureName } from "./panels/tiles/words.ts";
import { isPresent } from "./figures/figure.ts";
import { compileFormula } from "./formula/compile.ts";
import { bandProblems } from "./kpis/status.ts";
import { lastClosedMonth } from "./cube/coverage.ts";
import { timeSeries } from "./panels/time-chart/time-series.ts";
import {
  CALENDAR,
  contextOf,
  kpiFrom,
  kpiOf,
  NAMES,
  run,
  type SmallFact,
  BUDGET,
  frameOf,
  OCTOBER,
  valueOf,
} from "./testing/small-company.ts";
import { coverageNotes } from "./words/coverage-words.ts";
import { spanWords } from "./words/frame-words.ts";
import { varianceWords } from "./words/variance-words.ts";

/**
 * What goes wrong in management reviews, one test for each: reading a month as a year,
 * averaging percentages, comparing unlike periods … Each fails without its answer.
 */
const APRIL = monthOf(2026, 4);
const compare = (facts: readonly SmallFact[], key: string, at: Frame) => compareKpi(kpiOf(key), at, contextOf(facts));
const tried = (facts: readonly SmallFact[], formula: string, at: Frame) =>
  valueOf(compareKpi(kpiFrom(formula), at, contextOf(facts)).actual.figure);
const refusal = (formula: string) => {
  const result = compileFormula(formula, { ...NAMES, kpis: new Map() });
  return result.ok ? "accepted" : result.problem.message;
};
const daily = (month: number, days: number, amount: number): SmallFact[] =>
  Array.from({ length: days }, (_, i) => ({
    ...run("actual", "loaves", month, [amount])[0]!,
    dataset: "daily" as const,
    day: i + 1,
  }));

describe("traps of a management review", () => {
  it("a month is never taken for the whole period: every span has words of its own", () => {
    const spans = ["month", "quarter", "quarter-to-date", "year-to-date", "full-year", "trailing-12", "month-to-date"];
    const words = spans.map((span) => spanWords(CALENDAR, parseSpan(span)!, OCTOBER, 17));
    expect(new Set(words).size).toBe(spans.length);
    expect(words[3]).toBe("year to date, April–October FY27");
    expect(tileFigureName("same-day", CALENDAR, OCTOBER + 1, 17)).toBe("1–17 October");
  });
  it("nothing sums all years, nor flows with balances or counts with money", () => {
    const years = run("actual", "bread", monthOf(2024, 4), Array<number>(31).fill(100_00));
    expect(valueOf(compare(years, "turnover", frameOf("year-to-date")).actual.figure)).toBe(700);
    expect(refusal("sales + till")).toContain("say closing(till) or average(till)");
    expect(refusal("sales + loaves")).toContain("loaves");
  });
  it("comparing with the budget does not blank the actual", () => {
    const actualOnly = run("actual", "bread", APRIL, [100_00]);
    const { actual, basis, variance } = compare(actualOnly, "turnover", frameOf("month", BUDGET, APRIL));
    expect([valueOf(actual.figure), valueOf(basis.figure), valueOf(variance.delta)]).toEqual([
      100,
      "not covered",
      "no base",
    ]);
  });
  it("months come in calendar order, whatever order facts come in", () => {
    const facts = run("actual", "bread", APRIL, [1_00, 2_00, 3_00, 4_00, 5_00, 6_00, 7_00]).reverse();
    const at = frameOf("year-to-date");
    const { points } = timeSeries(kpiOf("turnover"), at, compare(facts, "turnover", at), contextOf(facts));
    const shown = points.flatMap((p) => (isPresent(p.actual) ? [[p.period.from, p.actual.value]] : []));
    expect(shown).toEqual([1, 2, 3, 4, 5, 6, 7].map((amount, i) => [APRIL + i, amount]));
  });
  it("series of different length are compared on what they share, and that is said", () => {
    const facts = [
      ...run("actual", "bread", APRIL, Array<number>(7).fill(100_00)),
      ...run("budget", "bread", APRIL + 3, Array<number>(9).fill(90_00)),
    ];
    const comparison = compare(facts, "turnover", frameOf("year-to-date"));
    expect(valueOf(comparison.variance.delta)).toBe(40);
    const notes = coverageNotes(comparison, {
      calendar: CALENDAR,
      accounts: contextOf(facts).accounts,
      fallbackFrom: null,
    });
    expect(notes.join(" ")).toContain("July–October FY27");
  });
  it("growth and averages look back past the window", () => {
    const facts = run("actual", "bread", OCTOBER - 2, [100_00, 200_00, 300_00]);
    expect(tried(facts, "growth(sales, on: prior_period)", frameOf("month"))).toBe(0.5);
    expect(tried(facts, "moving_average(sales, 3)", frameOf("month"))).toBe(200);
    expect(tried(facts, "moving_average(sales, 4)", frameOf("month"))).toBe("no data");
  });
  it("growth or variance on nothing, zero or a loss is no number that misleads", () => {
    const facts = run("actual", "bread", OCTOBER - 1, [0, 300_00]);
    expect(tried(facts, "growth(sales, on: prior_period)", frameOf("month"))).toBe("no base");
    const zeroBudget = [...facts, ...run("budget", "bread", OCTOBER, [0])];
    expect(valueOf(compare(zeroBudget, "turnover", frameOf("month")).variance.deltaPercent)).toBe("no base");
    // From a loss of 100 to a profit of 100 is an improvement of 200, not a fall.
    const turned = run("actual", "bread", OCTOBER - 1, [-100_00, 100_00]);
    expect(tried(turned, "growth(sales, on: prior_period)", frameOf("month"))).toBe(2);
  });
  it("percentages are not averaged", () => {
    const facts = [
      ...run("actual", "bread", APRIL, [100_00, 900_00]),
      ...run("actual", "flour", APRIL, [90_00, 90_00]),
    ];
    const margin = valueOf(compare(facts, "margin", frameOf("year-to-date", BUDGET, APRIL + 1)).actual.figure);
    expect(margin).toBe((1000 - 180) / 1000);
    expect(margin).not.toBe((0.1 + 0.9) / 2);
  });
  it("month to date is held against the same days, the last day counted", () => {
    const facts = [...daily(OCTOBER, 31, 10), ...daily(OCTOBER + 1, 17, 10)];
    const { actual, basis } = compare(facts, "output", frameOf("month-to-date", { kind: "prior-period" }, OCTOBER + 1));
    expect([valueOf(actual.figure), valueOf(basis.figure)]).toEqual([170, 170]);
    expect(tried(facts, "run_rate(loaves, to: month)", frameOf("month", BUDGET, OCTOBER + 1))).toBe(300);
  });
  it("today is the data's: the last month that is whole, not the clock's", () => {
    const facts = [...run("actual", "bread", APRIL, [100_00, 100_00]), ...daily(APRIL + 2, 17, 1)];
    expect(lastClosedMonth(contextOf(facts).coverage)).toBe(APRIL + 1);
  });
  it("words follow the signed numbers: 8.6 against 8.9 is below", () => {
    const facts = [...run("actual", "bread", OCTOBER, [860]), ...run("budget", "bread", OCTOBER, [890])];
    const { variance } = compare(facts, "turnover", frameOf("month"));
    const said = (money: "units" | "thousand") =>
      varianceWords({ unit: { kind: "money-per", per: "loaf" }, decimals: 1, money, basisName: "Budget", ...variance });
    expect(said("units")).toBe("€ 0.3 (3.4%) below Budget, unfavourable");
    // Nor is what is too small to be written called equal and unfavourable at once.
    expect(
      varianceWords({ unit: { kind: "money" }, decimals: 0, money: "thousand", basisName: "Budget", ...variance }),
    ).toBe("less than € 1 (3.4%) below Budget, unfavourable");
  });
  it("a cost over budget is unfavourable, an income over budget favourable", () => {
    const over = (account: string) => [
      ...run("actual", account, OCTOBER, [120_00]),
      ...run("budget", account, OCTOBER, [100_00]),
    ];
    expect(compare(over("bread"), "turnover", frameOf("month")).variance.judgement).toBe("favourable");
    const cost = kpiFrom("cost");
    const lower = { ...cost, definition: { ...cost.definition, direction: "lower" as const } };
    expect(compareKpi(lower, frameOf("month"), contextOf(over("flour"))).variance.judgement).toBe("unfavourable");
  });
  it("status bands with a hole or an overlap are refused, with the numbers between", () => {
    const band = (from: number | null, to: number | null) => ({ from, to, grade: "fair" as const, word: "fair" });
    expect(bandProblems([band(null, 90), band(90, 100), band(100, null)])).toEqual([]);
    expect(bandProblems([band(null, 90), band(95, null)])).toMatchObject([{ kind: "hole", from: 90, to: 95 }]);
    expect(bandProblems([band(null, 95), band(90, null)])).toMatchObject([{ kind: "overlap", from: 90, to: 95 }]);
  });
});
