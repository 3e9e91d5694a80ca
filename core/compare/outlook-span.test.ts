import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { isPresent } from "../figures/figure.ts";
import { contextOf, kpiFrom, kpiOf, run, type SmallFact } from "../testing/small-company.ts";
import { compareKpi, compareSides } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { measureMonth } from "./measure.ts";
import type { MeasureContext } from "./measure-ground.ts";
import { outlookOf } from "./outlook.ts";
import { PRIOR_YEAR, SHOWN, WITH_OUTLOOK } from "./side.ts";
import { spanWindow } from "./window.ts";
import type { Figure } from "../figures/schema.ts";

/** The span "full year, with outlook": the actual is followed by what plans the rest, in everything that is measured. */
const START = monthOf(2025, 4);
const YEAR = START + 12;
const frameAt = (at: number): Frame => ({
  asOf: YEAR + at,
  span: { kind: "full-year" },
  basis: { kind: "scenario", scenario: "budget" },
  scope: {},
  shown: WITH_OUTLOOK,
});
const lookingOn = (facts: readonly SmallFact[], at: number, more: Partial<MeasureContext> = {}): MeasureContext => ({
  ...contextOf(facts),
  knownTo: YEAR + at,
  shown: WITH_OUTLOOK,
  ...more,
});
const valueOf = (figure: Figure) => (isPresent(figure) ? figure.value : null);
const amounts = (count: number) =>
  fc.array(fc.integer({ min: -1e7, max: 1e7 }), { minLength: count, maxLength: count });
const inShop = (shop: string, facts: readonly SmallFact[]) => facts.map((fact) => ({ ...fact, shop }));

/** Two shops' books: two years of actuals, a budget, and a forecast that keeps only the months to come. */
const books = fc.record({
  at: fc.integer({ min: 0, max: 11 }),
  bread: fc.tuple(amounts(24), amounts(24)),
  flour: amounts(24),
  till: amounts(24),
  budget: fc.tuple(amounts(12), amounts(12)),
  forecast: fc.tuple(amounts(12), amounts(12)),
});
const factsOf = ({
  at,
  bread,
  flour,
  till,
  budget,
  forecast,
}: typeof books extends fc.Arbitrary<infer B> ? B : never) => {
  const closed = 12 + at + 1;
  return ["mill", "quay"].flatMap((shop, s) =>
    inShop(shop, [
      ...run("actual", "bread", START, bread[s]!.slice(0, closed)),
      ...(s === 0
        ? [
            ...run("actual", "flour", START, flour.slice(0, closed)),
            ...run("actual", "till", START, till.slice(0, closed)),
          ]
        : []),
      ...run("budget", "bread", YEAR, budget[s]!),
      ...(s === 0 ? [...run("budget", "flour", YEAR, budget[1]), ...run("budget", "till", YEAR, budget[0])] : []),
      ...run("forecast-6-6", "bread", YEAR + 6, forecast[s]!.slice(6)),
    ]),
  );
};

describe("a full year with its outlook", () => {
  it("is the outlook of every KPI: sums, balances, rates of whole inputs, by every source that plans", () => {
    fc.assert(
      fc.property(books, fc.constantFrom(undefined, "budget", "forecast-6-6"), (book, outlook) => {
        const context = lookingOn(factsOf(book), book.at, { outlook });
        for (const key of ["turnover", "profit", "margin", "cash"]) {
          const kpi = kpiOf(key);
          const { actual, basis, variance } = compareKpi(kpi, frameAt(book.at), context);
          const beside = outlookOf(kpi, { ...frameAt(book.at), shown: undefined! }, { ...context, shown: undefined });
          expect(valueOf(actual.figure)).toEqual(valueOf(beside.figure));
          expect(valueOf(basis.figure)).toEqual(valueOf(beside.basis));
          expect(valueOf(variance.delta)).toEqual(valueOf(beside.variance.delta));
        }
      }),
      { numRuns: 60 },
    );
  });

  it("adds up by month and by member, also in Δ, and reads the years before as they were", () => {
    fc.assert(
      fc.property(books, (book) => {
        const context = lookingOn(factsOf(book), book.at, { outlook: "budget" });
        const kpi = kpiOf("turnover");
        const frame = frameAt(book.at);
        const whole = compareKpi(kpi, frame, context);
        const total = valueOf(whole.actual.figure)!;
        const months = Array.from({ length: 12 }, (_, i) =>
          valueOf(measureMonth(kpi, SHOWN, YEAR + i, context).figure)!,
        );
        expect(months.reduce((a, b) => a + b, 0)).toBeCloseTo(total, 5);
        expect(months.map((value) => Math.round(value * 100))).toEqual(
          months.map((_, i) => {
            const of = i <= book.at ? book.bread.map((shop) => shop[12 + i]!) : book.budget.map((shop) => shop[i]!);
            return of[0]! + of[1]!;
          }),
        );
        const shops = ["mill", "quay"].map((shop) => compareKpi(kpi, frame, { ...context, scope: { shop: [shop] } }));
        expect(shops.reduce((sum, { actual }) => sum + valueOf(actual.figure)!, 0)).toBeCloseTo(total, 5);
        expect(shops.reduce((sum, { variance }) => sum + valueOf(variance.delta)!, 0)).toBeCloseTo(
          valueOf(whole.variance.delta)!,
          5,
        );
        const grown = compareSides(kpi, SHOWN, PRIOR_YEAR, spanWindow(context, frame.span, frame.asOf), context);
        const before = book.bread.flatMap((shop) => shop.slice(0, 12)).reduce((a, b) => a + b, 0);
        expect(Math.round(valueOf(grown.basis.figure)! * 100)).toBe(before);
        expect(valueOf(grown.variance.delta)).toBeCloseTo(total - before / 100, 5);
      }),
      { numRuns: 60 },
    );
  });

  const even = (count: number, amount: number) => Array.from({ length: count }, () => amount);
  const plain = [...run("actual", "bread", START, even(19, 1000)), ...run("budget", "bread", YEAR, even(12, 900))];

  it("says why there is none: an estimate has no parts, a year lacks months, accounts are not told apart alike", () => {
    const at = (facts: readonly SmallFact[], more: Partial<MeasureContext> = {}) =>
      compareKpi(kpiOf("turnover"), frameAt(6), lookingOn(facts, 6, more)).actual.figure;
    expect(at(plain, { outlook: "run-rate" })).toMatchObject({
      absent: "not covered",
      detail:
        "An outlook by the run rate with its season is made for one figure as a whole and has no parts. Take the remaining months from a version, or post one by it.",
    });
    expect(at(plain.filter(({ scenario }) => scenario === "actual"))).toMatchObject({
      detail: "Neither a forecast nor a budget has it.",
    });
    expect(at(plain.filter(({ month }) => month !== YEAR + 11))).toMatchObject({ absent: "not covered" });
    const split = [
      ...plain,
      ...run("actual", "cake", START, even(19, 50)),
      ...run("budget", "cake", YEAR, even(12, 50)),
    ];
    const inMill = {
      ...contextOf(split, {
        scope: { shop: ["mill"] },
        depth: (f) => (f.scenario === "budget" && f.account === "cake" ? 0 : 2),
      }),
      knownTo: YEAR + 6,
    };
    const unlike = { absent: "not covered", detail: "cake is not kept by the actual and Budget alike in this scope." };
    expect(compareKpi(kpiOf("turnover"), frameAt(6), { ...inMill, shown: WITH_OUTLOOK }).actual.figure).toMatchObject(
      unlike,
    );
    expect(outlookOf(kpiOf("turnover"), { ...frameAt(6), shown: undefined! }, inMill).figure).toMatchObject(unlike);
  });

  it("takes the days of an open month, and the plan for those that are left", () => {
    const daily = Array.from({ length: 10 }, (_, day): SmallFact => ({
      scenario: "actual",
      account: "loaves",
      month: YEAR + 7,
      day: day + 1,
      dataset: "daily",
      amount: 7,
    }));
    const closed = Array.from({ length: 7 * 31 }, (_, i): SmallFact => ({
      scenario: "actual",
      account: "loaves",
      month: YEAR + Math.floor(i / 31),
      day: (i % 31) + 1,
      dataset: "daily",
      amount: 1,
    }));
    const facts = [...closed, ...daily, ...run("budget", "loaves", YEAR, even(12, 300))];
    const { figure } = compareKpi(kpiOf("output"), frameAt(7), lookingOn(facts, 7)).actual;
    // November has 30 days, of which 10 are there.
    expect(valueOf(figure)).toBeCloseTo(7 * 31 + 70 + 300 * (20 / 30) + 4 * 300, 8);
    expect(
      valueOf(
        outlookOf(kpiOf("output"), { ...frameAt(7), shown: undefined! }, { ...lookingOn(facts, 7), shown: undefined })
          .figure,
      ),
    ).toBeCloseTo(valueOf(figure)!, 8);
  });

  it("is the year itself once it is closed, and lets formulas keep a time and scenario of their own", () => {
    const full = [...run("actual", "bread", START, even(24, 1000)), ...run("budget", "bread", YEAR, even(12, 900))];
    expect(compareKpi(kpiOf("turnover"), frameAt(11), lookingOn(full, 11)).actual.figure).toEqual({ value: 120 });
    const growth = compareKpi(kpiFrom("turnover - prior_year(turnover)"), frameAt(6), lookingOn(plain, 6));
    expect(growth.actual.figure).toEqual({ value: 7 * 10 + 5 * 9 - 120 });
    const left = compareKpi(kpiFrom("turnover - turnover@budget"), frameAt(6), lookingOn(plain, 6));
    expect(left.actual.figure).toEqual({ value: 7 });
  });
});
