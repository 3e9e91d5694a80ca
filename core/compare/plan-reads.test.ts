import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import { bookKey } from "../cube/cell-book.ts";
import type { CellQuery } from "../cube/cell-source.ts";
import { seriesAsks, timeSeries } from "../series/time-series.ts";
import { contextOf, kpiFrom, kpiOf, run } from "../testing/small-company.ts";
import { compareKpi } from "./compare-kpi.ts";
import type { Basis, Frame } from "./frame.ts";
import type { MeasureContext } from "./measure.ts";
import { planReads } from "./plan-reads.ts";
import { comparisonAsks, scorecardAsks, scorecardRow, type RowParts } from "./scorecard.ts";
import { ACTUAL } from "./side.ts";
import { monthWindow } from "./window.ts";

const FIRST = monthOf(2024, 4);
const many = (scenario: string, account: string, count: number, from = FIRST) =>
  run(
    scenario,
    account,
    from,
    Array.from({ length: count }, (_, i) => (i + 1) * 100),
  );
const facts = [
  ...many("actual", "bread", 31),
  ...many("actual", "flour", 31),
  ...many("actual", "till", 31),
  ...many("budget", "bread", 36),
  ...many("budget", "flour", 36),
  ...many("forecast-6-6", "bread", 12, monthOf(2026, 4)),
  ...[0, 3, 6, 9].flatMap((q) => run("target", "bread", monthOf(2026, 4) + q, [900], "targets")),
];
const base = contextOf(facts);
const frames: fc.Arbitrary<Frame> = fc.record({
  asOf: fc.integer({ min: monthOf(2024, 1), max: monthOf(2027, 3) }),
  span: fc.oneof(
    fc.constantFrom("month", "quarter", "quarter-to-date", "year-to-date", "full-year").map((kind) => ({ kind })),
    fc.integer({ min: 1, max: 24 }).map((periods): Span => ({ kind: "trailing", periods })),
  ),
  basis: fc.constantFrom<Basis>(
    { kind: "prior-year" },
    { kind: "prior-period" },
    { kind: "latest-forecast" },
    { kind: "scenario", scenario: "budget" },
    { kind: "scenario", scenario: "target" },
  ),
  scope: fc.constant({}),
});

/** A context that notes every look-up outside the planned queries: what was not read would be taken for 0. */
function watching(queries: ReadonlyMap<string, CellQuery>, missed: string[]): MeasureContext {
  return {
    ...base,
    cells: {
      table: (scope, throughDay) => ({
        amount: (scenario, account, month) => {
          const query = queries.get(bookKey(scope, throughDay));
          const isPlanned =
            query?.accounts.includes(account) &&
            query.windows.some((w) => w.scenario === scenario && month >= w.from && month <= w.to);
          if (!isPlanned) missed.push(`${scenario} ${account} ${month}`);
          return base.cells.table(scope, throughDay).amount(scenario, account, month);
        },
      }),
    },
  };
}

const ALL: RowParts = { priorYear: true, toDate: true, outlook: true, trendMonths: 13 };
const KPIS = [
  ...["turnover", "profit", "margin", "cash"].map(kpiOf),
  ...[
    "turnover - prior_year(turnover)",
    "growth(margin)",
    "trailing(turnover, 12) / 12",
    "moving_average(margin, 3)",
    "run_rate(turnover, to: year, season: 2)",
    "closing(till) - opening(till)",
    "turnover@budget / turnover@forecast",
    "highest(ago(turnover, 5), over: shop)",
    'share(only(turnover, shop: "Mill"), of: shop)',
    "days() * first(margin)",
  ].map(kpiFrom),
];

describe("what is planned to be read", () => {
  it("is all that a scorecard looks up, whatever the frame and the formula", () => {
    fc.assert(
      fc.property(frames, fc.constantFrom(...KPIS), (frame, kpi) => {
        const missed: string[] = [];
        const context = watching(planReads(scorecardAsks([kpi], frame, base, ALL), base), missed);
        scorecardRow(kpi, frame, context, ALL);
        expect(missed).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
  it("is all that a chart looks up, whatever the frame and the formula", () => {
    fc.assert(
      fc.property(frames, fc.constantFrom(...KPIS), (frame, kpi) => {
        const missed: string[] = [];
        const asks = [...seriesAsks(kpi, frame, base), ...comparisonAsks([kpi], frame, base)];
        const context = watching(planReads(asks, base), missed);
        timeSeries(kpi, frame, compareKpi(kpi, frame, context), context);
        expect(missed).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });
  it("reads once what several KPIs share, and names each leaf once", () => {
    const kpis = ["turnover", "profit"].map(kpiOf);
    const reads = planReads([{ kpis, side: ACTUAL, windows: [monthWindow(FIRST), monthWindow(FIRST + 3)] }], base);
    expect([...reads.values()]).toEqual([
      {
        accounts: ["bread", "cake", "flour", "rent"],
        windows: [{ scenario: "actual", from: FIRST - 2, to: FIRST + 5 }],
        scope: {},
      },
    ]);
  });
});
