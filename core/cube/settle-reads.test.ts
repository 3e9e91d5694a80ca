import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { Span } from "../calendar/span.ts";
import { compareKpi } from "../compare/compare-kpi.ts";
import type { Basis, Frame } from "../compare/frame.ts";
import type { MeasureContext } from "../compare/measure-ground.ts";
import { scorecardRow, type RowParts } from "../compare/scorecard.ts";
import { placeReference } from "../series/reference-line.ts";
import { timeSeries } from "../panels/time-chart/time-series.ts";
import { contextOf, kpiFrom, kpiOf, run, SHOPS, type SmallFact } from "../testing/small-company.ts";
import { bindPages, UnreadCells, type CellBook } from "./cell-book.ts";
import { bundledSource } from "./bundle-reads.ts";
import { pageOfCells, type Cell, type CellQuery, type CellSource } from "./cell-source.ts";
import { MissingReads, settleReads } from "./settle-reads.ts";
import { withDescendants } from "../dimensions/member-tree.ts";

const FIRST = monthOf(2024, 4);
const many = (scenario: string, account: string, count: number, from = FIRST) =>
  run(
    scenario,
    account,
    from,
    Array.from({ length: count }, (_, i) => (i + 1) * 100),
  ).map((fact, i): SmallFact => ({ ...fact, shop: ["mill", "gate", "quay"][i % 3]! }));
const FACTS = [
  ...many("actual", "bread", 31),
  ...many("actual", "flour", 31),
  ...many("actual", "till", 31),
  ...many("budget", "bread", 36),
  ...many("budget", "flour", 36),
  ...many("forecast-6-6", "bread", 12, monthOf(2026, 4)),
  ...[0, 3, 6, 9].flatMap((q) =>
    run("target", "bread", monthOf(2026, 4) + q, [900], "targets").map((fact) => ({ ...fact, shop: "mill" })),
  ),
];
const base = contextOf(FACTS);

/** A source that looks at every fact. */
function source(asked: CellQuery[] = []): CellSource {
  return bundledSource(
    (query: CellQuery): Promise<Cell[]> => {
      asked.push(query);
      const inside = query.scope["shop"] && withDescendants(SHOPS, query.scope["shop"]);
      return Promise.resolve(
        FACTS.filter(
          (f) =>
            query.accounts.includes(f.account) &&
            query.windows.some((w) => w.scenario === f.scenario && f.month >= w.from && f.month <= w.to) &&
            (!inside || f.shop === undefined || inside.includes(f.shop)) &&
            (query.by === undefined || f.shop !== undefined),
        ).map((f) => (query.by === undefined ? f : { ...f, member: f.shop! })),
      );
    },
    [SHOPS],
  );
}
const within = (cells: CellBook): MeasureContext => ({ ...base, cells });

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
    "median(margin, over: month)",
    "outlook(turnover) - full_year(turnover@budget)",
  ].map(kpiFrom),
];

describe("what a computation looks up", () => {
  it("is read before it counts: figures are those of a book that has everything, whatever the frame and the formula", async () => {
    await fc.assert(
      fc.asyncProperty(frames, fc.constantFrom(...KPIS), async (frame, kpi) => {
        const all = (cells: CellBook) => {
          const context = within(cells);
          return {
            row: scorecardRow(kpi, frame, context, ALL),
            series: timeSeries(kpi, frame, compareKpi(kpi, frame, context), context),
            line: placeReference(
              { kind: "statistic", of: "average", side: "actual", over: "last-year" },
              kpi,
              frame,
              context,
            ),
          };
        };
        expect(await settleReads(all, source())).toEqual(all(base.cells));
      }),
      { numRuns: 150 },
    );
  });
  it("is asked once where members of a dimension differ only in whom they look at", async () => {
    const asked: CellQuery[] = [];
    const kpi = kpiFrom("highest(turnover, over: shop)");
    const frame: Frame = { asOf: monthOf(2026, 10), span: { kind: "month" }, basis: { kind: "prior-year" }, scope: {} };
    await settleReads((cells) => compareKpi(kpi, frame, within(cells)), source(asked));
    expect(asked.map((query) => [query.by, query.scope["shop"]])).toEqual([["shop", ["mill", "gate", "quay"]]]);
  });
  it("may follow from what was read before, and then takes another round", async () => {
    const asked: CellQuery[] = [];
    const sumOf = (cells: CellBook, months: number[]) =>
      cells.sum({ scope: {}, days: undefined, scenario: "actual", accounts: ["bread"], months });
    const found = await settleReads(
      (cells) => sumOf(cells, [FIRST]) + (sumOf(cells, [FIRST]) === 100 ? sumOf(cells, [FIRST + 5]) : 0),
      source(asked),
    );
    expect([found, asked.length]).toEqual([100 + 600, 2]);
  });
  it("ends in an error rather than in a loop where reading never settles", async () => {
    let month = FIRST;
    const restless = (cells: CellBook) =>
      cells.sum({ scope: {}, days: undefined, scenario: "actual", accounts: ["bread"], months: [(month += 1)] });
    await expect(settleReads(restless, source())).rejects.toThrow("after 8 rounds");
  });
});

describe("a book of cells", () => {
  const query: CellQuery = { accounts: ["bread", "a|b"], windows: [{ scenario: "actual", from: 1, to: 3 }], scope: {} };
  const cell = (account: string, month: number, amount: number): Cell => ({
    scenario: "actual",
    account,
    month,
    amount,
  });
  const book = bindPages([pageOfCells(query, [cell("bread", 1, 5), cell("bread", 3, 7), cell("bread", 1, 1)])]);
  const read = { scope: {}, days: undefined, scenario: "actual", accounts: ["bread"], months: [1, 2, 3] };
  it("adds up cells of one place, and is 0 where nothing was posted", () => {
    expect([book.sum(read), book.sum({ ...read, accounts: ["a|b"] }), book.sum({ ...read, months: [2] })]).toEqual([
      13, 0, 0,
    ]);
    expect(book.sum({ ...read, months: [] })).toBe(0);
  });
  it.each([
    ["another account", { accounts: ["bread", "rent"] }],
    ["a month beside what was read", { months: [3, 4] }],
    ["another scenario", { scenario: "budget" }],
    ["another scope", { scope: { shop: ["mill"] } }],
    ["another day", { days: { from: 17, to: 17 } }],
  ])("throws at %s instead of taking it for 0", (_, change) => {
    expect(() => book.sum({ ...read, ...change })).toThrow(UnreadCells);
    expect(book.find({ ...read, ...change })).toBeUndefined();
  });
  it("gathers look-ups into one query for each scope, and one by day, each account named once", () => {
    const missing = new MissingReads();
    missing.note(read);
    missing.note({ ...read, accounts: ["bread", "rent"], months: [7] });
    missing.note({ ...read, scenario: "budget" });
    missing.note({ ...read, days: { from: 9, to: 9 } });
    missing.note({ ...read, days: { from: 1, to: 12 } });
    expect(missing.queries()).toEqual([
      {
        accounts: ["bread", "rent"],
        windows: [
          { scenario: "actual", from: 1, to: 7 },
          { scenario: "budget", from: 1, to: 3 },
        ],
        scope: {},
      },
      { accounts: ["bread"], windows: [{ scenario: "actual", from: 1, to: 3 }], scope: {}, byDay: true },
    ]);
  });
});
