import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import { contextOf, kpiFrom, kpiOf, run, type SmallFact } from "../testing/small-company.ts";
import { coverSide } from "./measure.ts";
import type { MeasureGround } from "./measure-ground.ts";
import { ACTUAL, PRIOR_YEAR, type Side } from "./side.ts";
import { monthWindow, spanWindow, wholeWindow } from "./window.ts";

const FIRST = monthOf(2024, 4);
const many = (scenario: string, account: string, count: number, from = FIRST): SmallFact[] =>
  run(
    scenario,
    account,
    from,
    Array.from({ length: count }, (_, i) => (i + 1) * 100),
  ).map((fact, i) => ({ ...fact, shop: ["mill", "gate", "quay"][i % 3]! }));
const FACTS = [
  ...many("actual", "bread", 31),
  ...many("actual", "flour", 29),
  ...many("budget", "bread", 36),
  ...many("budget", "flour", 36),
  ...many("forecast-6-6", "bread", 12, monthOf(2026, 4)),
  ...[0, 3, 6, 9].flatMap((q) => run("target", "bread", monthOf(2026, 4) + q, [900], "targets")),
];
const KPIS = [
  ...["turnover", "profit", "margin"].map(kpiOf),
  ...[
    "turnover - prior_year(turnover)",
    "growth(margin)",
    "full_year(turnover@budget) - year_to_date(turnover)",
    "turnover@budget / turnover@forecast",
    "median(margin, over: month)",
    "outlook(turnover) - full_year(turnover@budget)",
    'share(only(turnover, shop: "Mill"), of: shop)',
    "run_rate(turnover, to: year, season: 2)",
  ].map(kpiFrom),
];
const SIDES: Side[] = [
  ACTUAL,
  PRIOR_YEAR,
  { scenario: "budget", shift: 0, name: "Budget" },
  { scenario: "target", shift: 0, name: "Target" },
];
const month = fc.integer({ min: FIRST - 2, max: monthOf(2027, 3) });
const question = fc.record({
  kpi: fc.constantFrom(...KPIS),
  side: fc.constantFrom(...SIDES),
  asOf: month,
  knownTo: fc.option(month, { nil: undefined }),
  span: fc.oneof(
    fc.constantFrom("month", "quarter", "year-to-date", "full-year").map((kind) => ({ kind }) as Span),
    fc.integer({ min: 1, max: 14 }).map((periods): Span => ({ kind: "trailing", periods })),
  ),
  whole: fc.constantFrom("as far as known", "to its end", "month"),
  scope: fc.constantFrom(
    {},
    { shop: ["mill"] },
    { shop: ["gate"] },
    { shop: ["quay", "mill"] },
    { shop: ["north"] },
    { shop: ["north", "gate"] },
    { shop: [] },
  ),
  access: fc.constantFrom({}, { shop: ["north"] }),
});

describe("coverage that is remembered", () => {
  it("is what would be found anew, whatever was asked before and as of whichever month", () => {
    let covered = 0;
    fc.assert(
      fc.property(fc.array(question, { minLength: 10, maxLength: 60 }), (questions) => {
        const shared = contextOf(FACTS);
        for (const { kpi, side, asOf, knownTo, span, whole, scope, access } of questions) {
          const on = ({ ...context }: MeasureGround): MeasureGround => ({
            ...context,
            scope,
            access,
            ...(knownTo === undefined ? {} : { knownTo }),
          });
          const cover = (context: MeasureGround) => {
            const window =
              whole === "month"
                ? monthWindow(asOf)
                : whole === "to its end"
                  ? wholeWindow(context, span, asOf)
                  : spanWindow(context, span, asOf);
            return coverSide(kpi, side, window, on(context));
          };
          // A state of its own remembers nothing.
          const anew = cover(contextOf(FACTS));
          covered += anew.months.length;
          expect(cover(shared)).toEqual(anew);
        }
      }),
      { numRuns: 20 },
    );
    expect(covered).toBeGreaterThan(500);
  });
});
