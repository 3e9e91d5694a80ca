import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import type { CellQuery } from "../cube/cell-source.ts";
import { seriesSides, timeSeries } from "../series/time-series.ts";
import { contextOf, kpiOf, run, TREE } from "../testing/small-company.ts";
import { compareKpi } from "./compare-kpi.ts";
import type { Basis, Frame } from "./frame.ts";
import type { MeasureContext } from "./measure.ts";
import { planCells } from "./plan-cells.ts";
import { scorecardRow, scorecardSides } from "./scorecard.ts";

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

/** A context that notes every look-up outside the planned query: what was not read would be taken for 0. */
function watching(query: CellQuery, missed: string[]): MeasureContext {
  return {
    ...base,
    cells: {
      amount: (scenario, account, month) => {
        const isPlanned =
          query.accounts.includes(account) &&
          query.windows.some((w) => w.scenario === scenario && month >= w.from && month <= w.to);
        if (!isPlanned) missed.push(`${scenario} ${account} ${month}`);
        return base.cells.amount(scenario, account, month);
      },
    },
  };
}

describe("what is planned to be read", () => {
  it("is all that a scorecard looks up, whatever the frame", () => {
    const kpis = ["turnover", "profit", "margin", "cash"].map(kpiOf);
    fc.assert(
      fc.property(frames, (frame) => {
        const missed: string[] = [];
        const sides = scorecardSides({ kpis, frame, coverage: base.coverage, calendar: base.calendar });
        const context = watching(planCells({ kpis, sides, accounts: TREE, scope: {} }), missed);
        for (const kpi of kpis) scorecardRow(kpi, frame, context);
        expect(missed).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
  it("is all that a chart looks up, whatever the frame", () => {
    fc.assert(
      fc.property(frames, fc.constantFrom("turnover", "margin"), (frame, key) => {
        const missed: string[] = [];
        const kpi = kpiOf(key);
        const sides = [
          ...seriesSides(frame, base.coverage, base.calendar, null),
          ...scorecardSides({ kpis: [kpi], frame, coverage: base.coverage, calendar: base.calendar }),
        ];
        const context = watching(planCells({ kpis: [kpi], sides, accounts: TREE, scope: {} }), missed);
        timeSeries(kpi, frame, compareKpi(kpi, frame, context), context);
        expect(missed).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
  it("names each leaf once and leaves out sides without months", () => {
    const query = planCells({
      kpis: ["turnover", "profit"].map(kpiOf),
      sides: [{ side: { scenario: "budget", shift: 0, name: "Budget" }, months: [] }],
      accounts: TREE,
      scope: {},
      throughDay: 17,
    });
    expect(query).toEqual({
      accounts: ["bread", "cake", "flour", "rent"],
      windows: [],
      scope: {},
      throughDay: 17,
    });
  });
});
