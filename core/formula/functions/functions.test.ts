import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fiscalYearOf, fiscalYearStart } from "../../calendar/fiscal-calendar.ts";
import { daysInMonth, monthOf, type Month } from "../../calendar/month.ts";
import type { Span } from "../../calendar/span.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import type { MeasureContext } from "../../compare/measure-ground.ts";
import { ACTUAL } from "../../compare/side.ts";
import { spanWindow } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import { contextOf, kpiFrom, NAMES, run, type SmallFact } from "../../testing/small-company.ts";
import { compileLibrary } from "../../kpis/compile-kpi.ts";
import { suggestedUnit } from "../../workbench/try-formula.ts";
import { compileFormula } from "../compile.ts";
import { FUNCTIONS, usageOf } from "./index.ts";
import type { Figure } from "../../figures/schema.ts";

const APRIL = monthOf(2025, 4);
const OCTOBER = monthOf(2026, 10);
const YTD: Span = { kind: "year-to-date" };
/** 19 months from April 2025: 10.00, 20.00 … in bread; 400.00 falling by 10.00 in the till. */
const MONTHS = Array.from({ length: 19 }, (_, i) => i);
const BOOKS: SmallFact[] = [
  ...run(
    "actual",
    "bread",
    APRIL,
    MONTHS.map((i) => (i + 1) * 1000),
  ),
  ...run(
    "actual",
    "flour",
    APRIL,
    MONTHS.map(() => 500),
  ),
  ...run(
    "actual",
    "till",
    APRIL,
    MONTHS.map((i) => 40_000 - i * 1000),
  ),
  ...run(
    "budget",
    "bread",
    monthOf(2026, 4),
    Array.from({ length: 12 }, () => 15_000),
  ),
];

function figure(formula: string, { span = YTD, asOf = OCTOBER, context = contextOf(BOOKS) } = {}): Figure {
  const kpi = kpiFrom(formula);
  return measureOver(kpi, ACTUAL, spanWindow(context, span, asOf), context).figure;
}
function value(formula: string, ask: { span?: Span; asOf?: Month; context?: MeasureContext } = {}): number {
  const found = figure(formula, ask);
  if (!isPresent(found)) throw new Error(`${formula}: ${found.absent}. ${found.detail}`);
  return found.value;
}
const reason = (formula: string, ask: { span?: Span; asOf?: Month; context?: MeasureContext } = {}) => {
  const found = figure(formula, ask);
  return isPresent(found) ? found.value : found.absent;
};
const refusal = (formula: string) => {
  const result = compileFormula(formula, { ...NAMES, kpis: new Map([["profit", "sales - cost"]]) });
  return result.ok
    ? "accepted"
    : `${formula.slice(result.problem.from, result.problem.to)} | ${result.problem.message}`;
};

describe("time", () => {
  // April to October 2026 are the 13th to the 19th month: 130 to 190.
  it("is gathered over a span of the formula's own, whatever the page's", () => {
    for (const span of [YTD, { kind: "month" }, { kind: "trailing", periods: 5 }] as Span[]) {
      expect(value("month(sales)", { span })).toBe(190);
      expect(value("quarter_to_date(sales)", { span })).toBe(190);
      expect(value("year_to_date(sales)", { span })).toBe(130 + 140 + 150 + 160 + 170 + 180 + 190);
      expect(value("full_year(sales@budget)", { span })).toBe(1800);
      expect(value("trailing(sales, 3)", { span })).toBe(170 + 180 + 190);
    }
    expect(value("quarter(sales)", { asOf: OCTOBER - 1 })).toBe(160 + 170 + 180);
    expect(value("cumulative(sales)", { span: { kind: "month" }, asOf: monthOf(2026, 5) })).toBe(130 + 140);
    expect(value("cumulative(sales, since: quarter)", { span: { kind: "month" }, asOf: monthOf(2026, 8) })).toBe(
      160 + 170,
    );
  });
  it("is shifted by a year, a period of the same kind, or months, past the page's first month", () => {
    expect(value("prior_year(sales)")).toBe(10 + 20 + 30 + 40 + 50 + 60 + 70);
    expect(value("prior_period(sales)", { span: { kind: "month" } })).toBe(180);
    expect(value("prior_period(sales)", { span: { kind: "quarter-to-date" }, asOf: monthOf(2026, 8) })).toBe(130 + 140);
    expect(value("ago(sales, 2)", { span: { kind: "month" } })).toBe(170);
    expect(value("prior_year(prior_period(sales))", { span: { kind: "month" } })).toBe(60);
    // Of a span that is named it is that span's own, whatever the frame's.
    for (const span of [{ kind: "month" }, YTD, { kind: "full-year" }, { kind: "trailing", periods: 12 }] as Span[]) {
      expect(value("prior_period(month(sales))", { span })).toBe(180);
      expect(value("growth(month(sales), on: prior_period)", { span })).toBeCloseTo((190 - 180) / 180, 12);
      expect(value("prior_period(quarter_to_date(sales))", { span, asOf: monthOf(2026, 8) })).toBe(130 + 140);
      expect(value("prior_period(year_to_date(sales))", { span, asOf: monthOf(2025, 6) + 12 })).toBe(10 + 20 + 30);
      expect(value("month(prior_period(sales))", { span })).toBe(180);
    }
    expect([value("first(sales)"), value("last(sales)")]).toEqual([130, 190]);
  });
  it("stands over the span that is named beside whatever else, whatever the frame's", () => {
    const spans = [
      { kind: "month" },
      { kind: "quarter" },
      YTD,
      { kind: "full-year" },
      { kind: "trailing", periods: 12 },
    ] as Span[];
    for (const span of spans) {
      // 1,800 in the year, 1,120 to October, five months left.
      expect(value("(full_year(sales@budget) - year_to_date(sales)) / months_left()", { span })).toBe(136);
      expect(value("full_year(sales@budget) / months_elapsed()", { span })).toBeCloseTo(1800 / 7, 12);
      expect(value("full_year(sales) / full_year(sales@budget)", { span })).toBeCloseTo(1120 / 1800, 12);
      expect(value("year_to_date(sales) / year_to_date(sales@budget)", { span })).toBeCloseTo(1120 / 1050, 12);
      // A year that is cut grows on the same part of the one before, however it is written.
      expect(value("growth(full_year(sales), on: prior_year)", { span })).toBe(3);
      expect(value("full_year(sales) - prior_year(full_year(sales))", { span })).toBe(1120 - 280);
      expect(value("growth(quarter(sales), on: prior_year)", { span })).toBeCloseTo(190 / 70 - 1, 12);
    }
    expect(value("sales / full_year(sales@budget)")).toBeCloseTo(1120 / 1800, 12);
    expect(value("sales / full_year(sales@budget)", { span: { kind: "full-year" } })).toBeCloseTo(1120 / 1800, 12);
    // What the plan has of the span is like for like for what happened, as it is without naming a span.
    const half = contextOf(BOOKS.filter((f) => f.scenario !== "budget" || f.month < monthOf(2026, 7)));
    expect(value("year_to_date(sales) / year_to_date(sales@budget)", { context: half })).toBeCloseTo(420 / 450, 12);
    expect(value("sales / sales@budget", { context: half })).toBeCloseTo(420 / 450, 12);
  });
  it("is absent where it is not covered, and trailing until all of it is", () => {
    expect(reason("ago(sales, 19)", { span: { kind: "month" } })).toBe("no data");
    expect(reason("trailing(sales, 20)")).toBe("not covered");
    expect(value("trailing(sales, 19)")).toBe(1900);
    expect(reason("month_to_date(sales)")).toBe("not covered");
  });
  it("goes by the fiscal year, whichever month it starts in", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 12, max: 18 }), (startMonth, back) => {
        const context = { ...contextOf(BOOKS), calendar: { startMonth } };
        const asOf = APRIL + back;
        const from = fiscalYearStart({ startMonth }, fiscalYearOf({ startMonth }, asOf));
        let sum = 0;
        for (let m = Math.max(from, APRIL); m <= asOf; m += 1) sum += (m - APRIL + 1) * 10;
        expect(value("year_to_date(sales)", { context, asOf, span: { kind: "month" } })).toBe(sum);
      }),
    );
  });
});

describe("growth and pace", () => {
  it("compares like for like, and says no base instead of nonsense", () => {
    expect(value("growth(sales)", { span: { kind: "month" } })).toBeCloseTo(10 / 180, 12);
    expect(value("growth(sales, on: prior_year)")).toBeCloseTo((1120 - 280) / 280, 12);
    // The first shown month has a predecessor: the look-back reads past the window.
    expect(value("growth(sales)", { span: { kind: "month" }, asOf: APRIL + 1 })).toBe(1);
    expect(reason("growth(sales)", { span: { kind: "month" }, asOf: APRIL })).toBe("no data");
    // Of a year to date whose prior year begins in May only, May to July are compared.
    const late = contextOf(BOOKS.filter((f) => f.month !== APRIL));
    expect(value("growth(sales, on: prior_year)", { context: late, asOf: monthOf(2026, 7) })).toBeCloseTo(
      (140 + 150 + 160) / (20 + 30 + 40) - 1,
      12,
    );
    const zero = contextOf([
      ...run("actual", "bread", APRIL, [0, 500, -500, 100]),
      ...run("actual", "cake", APRIL, [0, 0, 0, 0]),
    ]);
    expect(reason("growth(sales)", { context: zero, span: { kind: "month" }, asOf: APRIL + 1 })).toBe("no base");
    expect(value("growth(sales)", { context: zero, span: { kind: "month" }, asOf: APRIL + 3 })).toBeCloseTo(6 / 5, 12);
  });
  it("compounds over years between positive values only", () => {
    const context = contextOf([
      ...run("actual", "bread", APRIL, [10_000]),
      ...run("actual", "bread", APRIL + 24, [14_400]),
      ...run("actual", "bread", APRIL + 1, [-500]),
      ...run("actual", "bread", APRIL + 25, [100]),
    ]);
    const month: Span = { kind: "month" };
    expect(value("compound_growth(sales, 2)", { context, span: month, asOf: APRIL + 24 })).toBeCloseTo(0.2, 12);
    expect(reason("compound_growth(sales, 2)", { context, span: month, asOf: APRIL + 25 })).toBe("no base");
  });
  it("averages the last months, each counted alike, and rates too", () => {
    expect(value("moving_average(sales, 3)")).toBe(180);
    expect(value("moving_average(sales, 3, at: middle)", { asOf: OCTOBER - 1 })).toBe(180);
    expect(reason("moving_average(sales, 3, at: middle)")).toBe("not closed yet");
    expect(reason("moving_average(sales, 3)", { asOf: APRIL + 1 })).toBe("no data");
    const rates = [170, 180, 190].map((s) => 5 / s);
    expect(value("moving_average(cost / sales, 3)")).toBeCloseTo(rates.reduce((a, b) => a + b) / 3, 12);
  });
  it("carries the pace on by days, by months, or by prior years' season", () => {
    const elapsed = [4, 5, 6, 7, 8, 9, 10].reduce((s, m) => s + daysInMonth(monthOf(2026, m)), 0);
    expect(value("run_rate(sales)")).toBeCloseTo((1120 / elapsed) * 365, 8);
    expect(value("run_rate(sales, by: months)")).toBeCloseTo((1120 / 7) * 12, 9);
    // Prior year: 280 of 780 by October.
    expect(value("run_rate(sales, season: 1)")).toBeCloseTo((1120 * 780) / 280, 8);
    expect(reason("run_rate(sales, season: 2)")).toBe("no data");
    // A month that is not closed yet changes nothing: what the season had by then is taken over the same months.
    const early = { asOf: OCTOBER + 1 };
    expect(value("run_rate(sales, season: 1)", early)).toBeCloseTo(value("run_rate(sales, season: 1)"), 8);
    expect(value("run_rate(sales)", early)).toBeCloseTo(value("run_rate(sales)"), 8);
    expect(refusal("run_rate(sales / cost)")).toContain("extrapolates what adds up over time");
  });
  it("of a month in daily data counts the as-of day as elapsed", () => {
    const daily = Array.from({ length: 17 }, (_, d) => ({
      dataset: "daily" as const,
      scenario: "actual",
      account: "loaves",
      month: OCTOBER,
      day: d + 1,
      amount: 2,
    }));
    const context = contextOf(daily);
    expect(value("month_to_date(loaves)", { context })).toBe(34);
    expect(value("run_rate(loaves, to: month)", { context })).toBe(62);
  });
});

describe("balances", () => {
  it("close, open and average in words", () => {
    expect([value("closing(till)"), value("opening(till)")]).toEqual([220, 290]);
    expect(value("average(till)")).toBe((280 + 270 + 260 + 250 + 240 + 230 + 220) / 7);
    expect(value("closing(till) / sales * days()")).toBeCloseTo((220 / 1120) * 214, 9);
    expect(refusal("closing(sales)")).toContain('"sales" is a flow and is summed over the span');
    expect(refusal("till + sales")).toContain("say closing(till) or average(till)");
  });
});

describe("scope and members", () => {
  const shops: SmallFact[] = [
    ["mill", 3000],
    ["gate", 1000],
    ["quay", 4000],
  ].flatMap(([shop, amount]) =>
    run("actual", "bread", OCTOBER, [amount as number]).map((f) => ({ ...f, shop: shop as string })),
  );
  const at = (formula: string, scope = {}, access = {}) =>
    reason(formula, { context: contextOf(shops, { scope, access }), span: { kind: "month" } });
  it("narrows, widens and shares, inside what the page and the reader have", () => {
    expect(at('only(sales, shop: "North")')).toBe(40);
    expect(at('only(sales, shop: ["Mill", "quay"])')).toBe(70);
    expect(at('only(sales, shop: "Quay")', { shop: ["north"] })).toBe("not covered");
    expect(at("ignoring(sales, shop)", { shop: ["mill"] })).toBe(80);
    expect(at("share(sales, of: shop)", { shop: ["mill"] })).toBe(30 / 80);
    // A reader of the north never sees the south in a total.
    expect(at("ignoring(sales, shop)", { shop: ["mill"] }, { shop: ["north"] })).toBe(40);
  });
  it("gathers over members: lowest, highest, mean, count and rank", () => {
    expect([
      at("lowest(sales, over: shop)"),
      at("highest(sales, over: shop)"),
      at("members(sales, over: shop)"),
    ]).toEqual([10, 40, 3]);
    expect(at("mean(sales, over: shop)")).toBeCloseTo(80 / 3, 12);
    expect(at('highest(sales, over: shop, level: "Town")')).toBe(40);
    expect(["mill", "gate", "quay"].map((shop) => at("rank(sales, over: shop)", { shop: [shop] }))).toEqual([2, 3, 1]);
    expect(at("rank(sales, over: shop, first: lowest)", { shop: ["gate"] })).toBe(1);
    expect(at("rank(sales, over: shop)")).toBe("not covered");
  });
  it("ranks by what is looked at, not by a value that happens to be alike", () => {
    const alike = ["mill", "quay"].flatMap((shop, i) =>
      run("actual", "bread", OCTOBER, [[700, 0][i]!]).map((f) => ({ ...f, shop })),
    );
    const at = (formula: string, scope = {}) =>
      reason(formula, { context: contextOf(alike, { scope }), span: { kind: "month" } });
    // All shops together have what the mill has: a total has no rank all the same.
    expect(at("rank(sales, over: shop)")).toBe("not covered");
    expect(at("rank(sales, over: shop)", { shop: ["mill", "quay"] })).toBe("not covered");
    expect(at("rank(sales, over: shop)", { shop: ["mill"] })).toBe(1);
    expect(at('rank(sales, over: shop, level: "Town")', { shop: ["south"] })).toBe(2);
    expect(at('rank(sales, over: shop, level: "Town")', { shop: ["quay"] })).toBe("not covered");
  });
});

describe("choice and absence", () => {
  it("chooses without asking the other part, and turns absence into a number only when told", () => {
    expect(value("if(sales > 100, sales, cost)", { span: { kind: "month" } })).toBe(190);
    expect(value("if(not sales > 100 or cost = 5, 1, 2)", { span: { kind: "month" } })).toBe(1);
    expect(value("if(sales > 0, sales, sales@target)", { span: { kind: "month" } })).toBe(190);
    expect(reason("sales + sales@target")).toBe("not covered");
    expect(value("if_absent(sales@target, sales@budget)", { span: { kind: "month" } })).toBe(150);
    expect([value("min(sales, 15%)"), value("max(cost, sales)"), value("abs(cost - sales)")]).toEqual([
      0.15, 1120, 1085,
    ]);
  });
});

describe("numbers and their units", () => {
  const unitOf = (formula: string) => {
    const result = compileFormula(formula, { ...NAMES, kpis: new Map() });
    return result.ok ? suggestedUnit(result.value.unit) : result.problem.message;
  };
  const percent = { kind: "percent" };
  const number = { kind: "ratio", of: "" };
  it("keep apart what is a share and what is a number", () => {
    for (const share of ["good_loaves / loaves", "growth(sales)", "1 + growth(sales)", "2 * (cost / sales)", "5%"])
      expect([share, unitOf(share)]).toEqual([share, percent]);
    expect([unitOf("power(1 + growth(sales), 3) - 1"), unitOf("root(cost / sales) - 1")]).toEqual([percent, percent]);
    expect([unitOf("if(sales > 0, cost / sales, 0)"), unitOf("min(cost / sales, 1)")]).toEqual([percent, percent]);
    for (const plain of ["power(2, 3)", "if(sales > 0, 1, 0)", "1 / 3 + 2", "months_left()", "root(9)"])
      expect([plain, unitOf(plain)]).toEqual([plain, number]);
    expect(unitOf("sum(if(sales > 0, 1, 0), over: shop)")).toEqual(number);
  });
  it("round as they are written: a share by its percentage", () => {
    const loaves = contextOf([
      ...run("actual", "loaves", OCTOBER, [1000]),
      ...run("actual", "good_loaves", OCTOBER, [923]),
    ]);
    const at = (formula: string) => value(formula, { context: loaves, span: { kind: "month" } });
    expect([at("round(good_loaves / loaves, 1)"), at("round(good_loaves / loaves)")]).toEqual([0.923, 0.92]);
    expect([at("round(good_loaves / 7, 1)"), at("round(10 / 3, 2)")]).toEqual([131.9, 3.33]);
    expect(value("round(sales / 7)", { span: { kind: "month" } })).toBe(27);
  });
  it("make money of an amount for each, and of what is carried on from months", () => {
    expect([unitOf("money(2.50) * loaves"), unitOf('money(2.50, per: "loaves") * loaves')]).toEqual([
      { kind: "ratio", of: "money × loaves" },
      { kind: "money" },
    ]);
    const loaves = contextOf(run("actual", "loaves", OCTOBER, [1000]));
    expect(value("money(2.50, per: loaves) * loaves", { context: loaves, span: { kind: "month" } })).toBe(2500);
    expect(unitOf("money(2.50, per: loaf)")).toBe('No account counts "loaf". There are loaves.');
    expect(unitOf("year_to_date(sales) / months_elapsed() * 12")).toEqual({ kind: "money" });
    expect(value("year_to_date(sales) / months_elapsed() * 12")).toBe(1920);
    const definition = { ...kpiFrom("sales").definition, name: "Fee", formula: "money(2.50) * loaves" };
    const { problems } = compileLibrary([definition], NAMES);
    expect(problems[0]!.problem.message).toContain('A fixed amount for each is written money(2.50, per: "loaves").');
  });
  it("are absent where zero is divided by, also by way of a power", () => {
    expect([reason("power(0, -1)"), reason("power(-8, 0.5)"), reason("power(10, 400)")]).toEqual([
      "division by zero",
      "no base",
      "no base",
    ]);
  });
  it("are not added up where they do not add up, and say what can be done", () => {
    expect(refusal("sum(good_loaves / loaves, over: shop)")).toContain(
      "The argument of sum(…) is a rate, which does not add up over shops: say mean(…) for its plain mean",
    );
    expect(refusal("sum(sales / loaves, over: month)")).toContain("is a rate");
    expect(refusal("sum(till, over: month)")).toContain("is a balance, which does not add up over months");
    expect(refusal("sum(till, over: shop)")).toBe("accepted");
    expect(refusal("sum(max(sales - cost, 0), over: month)")).toBe("accepted");
  });
});

describe("scenarios", () => {
  it("are read at the side's own time, and a comparison with the budget compares the formula", () => {
    const kpi = kpiFrom("sales / sales@budget");
    const compared = compareKpi(
      kpi,
      { asOf: OCTOBER, span: YTD, basis: { kind: "scenario", scenario: "budget" }, scope: {} },
      contextOf(BOOKS),
    );
    expect([compared.actual.figure, compared.basis.figure]).toEqual([{ value: 1120 / 1050 }, { value: 1 }]);
  });
});

describe("a call that does not fit", () => {
  it("is refused under the word that is wrong, with the way out", () => {
    expect(refusal("grwth(sales)")).toBe(
      'grwth | There is no function "grwth". Is "growth" meant? The reference page lists them all.',
    );
    expect(refusal("growth(sales, over: shop)")).toContain('over | growth(…) has no option "over:".');
    expect(refusal("growth(sales, on: easter)")).toContain('"on:" is prior_period or prior_year.');
    expect(refusal("trailing(sales, 0)")).toBe('0 | "months" is a whole number from 1 to 120.');
    expect(refusal("moving_average()")).toContain("moving_average | moving_average(…) lacks");
    expect(refusal("prior_year(sales, cost)")).toContain("cost | prior_year(…) takes nothing more here.");
    expect(refusal('only(sales, shop: "Mull")')).toBe('"Mull" | Shop has no member "Mull". Is "Mill" meant?');
    expect(refusal('only(sales, town: "Mill")')).toContain('town | There is no dimension "town".');
    expect(refusal("sales@bugdet")).toContain('bugdet | There is no scenario "bugdet". Is "budget" meant?');
    expect(refusal("if(sales, 1, 2)")).toContain("a yes or no is needed here");
    expect(refusal("if(sales > 0, loaves, cost)")).toContain('"loaves" counts loaves and "cost" money');
    expect(refusal("(sales > 0) + 1")).toContain("is a yes or no, and a number is needed here");
    expect(refusal("sales > loaves")).toContain("they cannot be compared");
    expect(refusal("1 < sales < 3")).toContain("is a yes or no");
    expect(refusal('lowest(sales, over: shop, level: "Street")')).toContain(
      'Shop has no level "Street". It has "Town" or "Shop".',
    );
  });
});

describe("the registry", () => {
  it("says of each function how it is written, what it gives and when it is absent", () => {
    for (const f of FUNCTIONS.values()) {
      expect(usageOf(f)).toMatch(new RegExp(`^${f.name}\\(`));
      expect(f.gives).toMatch(/\.$/);
      expect(f.absence).toMatch(/\.$/);
      expect(f.example).toContain(`${f.name}(`);
    }
  });
});

describe("identities", () => {
  const amounts = fc.array(fc.integer({ min: -1e9, max: 1e9 }), { minLength: 24, maxLength: 24 });
  it("hold for all amounts: to date, cumulative, prior year, growth, mean and share agree with each other", () => {
    fc.assert(
      fc.property(amounts, fc.integer({ min: 12, max: 23 }), (bread, at) => {
        const context = contextOf(run("actual", "bread", APRIL, bread));
        const asOf = APRIL + at;
        const of = (formula: string) => value(formula, { context, asOf, span: { kind: "month" } });
        expect(of("year_to_date(sales) - ago(year_to_date(sales), 12)")).toBe(
          of("year_to_date(sales - prior_year(sales))"),
        );
        expect(of("trailing(sales, 3)")).toBe(of("sales + ago(sales, 1) + ago(sales, 2)"));
        expect(of("moving_average(sales, 3) * 3")).toBeCloseTo(of("trailing(sales, 3)"), 5);
        expect(of("if_absent(growth(sales), 0) * abs(prior_period(sales))")).toBeCloseTo(
          of("if(prior_period(sales) = 0, 0, sales - prior_period(sales))"),
          5,
        );
        if (asOf === APRIL + 23) expect(of("year_to_date(sales)")).toBe(of("full_year(sales)"));
      }),
    );
  });
});
