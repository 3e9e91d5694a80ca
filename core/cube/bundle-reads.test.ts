import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Dimension } from "../dimensions/dimension.ts";
import { SHOPS } from "../testing/small-company.ts";
import { bundleReads } from "./bundle-reads.ts";
import { bindPages, bookKey } from "./cell-book.ts";
import { pageOfCells, type Cell, type CellQuery } from "./cell-source.ts";
import { withDescendants } from "../dimensions/member-tree.ts";

const LINES: Dimension = {
  key: "line",
  name: "Line",
  plural: "lines",
  levels: ["Line"],
  members: ["sweet", "plain"].map((key) => ({ key, name: key, parent: null })),
};
const DIMENSIONS = [SHOPS, LINES];
const MONTHS = [0, 1, 2, 3];

interface Posted extends Cell {
  readonly at: Readonly<Record<string, string | undefined>>;
}

/** What a source answers, found by looking at every fact. */
function answer(facts: readonly Posted[], query: CellQuery): Cell[] {
  return facts
    .filter(
      (fact) =>
        query.accounts.includes(fact.account) &&
        query.windows.some((w) => w.scenario === fact.scenario && fact.month >= w.from && fact.month <= w.to) &&
        DIMENSIONS.every(({ key }, i) => {
          const chosen = query.scope[key];
          return !chosen || withDescendants(DIMENSIONS[i]!, chosen).includes(fact.at[key] ?? "");
        }) &&
        (query.by === undefined || fact.at[query.by] !== undefined),
    )
    .map(({ at, ...cell }) => (query.by === undefined ? cell : { ...cell, member: at[query.by]! }));
}

const memberOf = ({ members }: Dimension) =>
  fc.option(fc.constantFrom(...members.map((m) => m.key)), { nil: undefined });
const facts: fc.Arbitrary<Posted[]> = fc.array(
  fc.record({
    scenario: fc.constantFrom("actual", "budget"),
    account: fc.constantFrom("bread", "cake"),
    month: fc.constantFrom(...MONTHS),
    amount: fc.integer({ min: -99, max: 99 }),
    at: fc.record({ shop: memberOf(SHOPS), line: memberOf(LINES) }),
  }),
  { maxLength: 40 },
);
const someOf = ({ members }: Dimension) =>
  fc.option(
    fc.subarray(
      members.map((m) => m.key),
      { minLength: 1, maxLength: 2 },
    ),
    { nil: undefined },
  );
const queries: fc.Arbitrary<CellQuery> = fc
  .record({
    accounts: fc.subarray(["bread", "cake"], { minLength: 1 }),
    scenario: fc.constantFrom("actual", "budget"),
    from: fc.constantFrom(...MONTHS),
    shop: someOf(SHOPS),
    line: someOf(LINES),
  })
  .map(({ accounts, scenario, from, shop, line }) => ({
    accounts,
    windows: [{ scenario, from, to: from + 1 }],
    scope: { ...(shop ? { shop } : {}), ...(line ? { line } : {}) },
  }));
const reads = fc
  .array(queries, { minLength: 1, maxLength: 8 })
  .map((list) => [...new Map(list.map((query) => [bookKey(query.scope, false), query])).values()]);

describe("bundled reads", () => {
  it("give each read the cells that it alone would have had", () => {
    let saved = 0;
    fc.assert(
      fc.property(facts, reads, (posted, asked) => {
        const bundles = bundleReads(asked, DIMENSIONS);
        saved += asked.length - bundles.length;
        const together = bindPages(bundles.flatMap(({ query, split }) => split(answer(posted, query))));
        const alone = bindPages(asked.map((query) => pageOfCells(query, answer(posted, query))));
        for (const { scope, accounts, windows } of asked)
          for (const account of accounts)
            for (const { scenario, from, to } of windows)
              for (const month of [from, to]) {
                const read = { scope, days: undefined, scenario, accounts: [account], months: [month] };
                expect(together.sum(read)).toBe(alone.sum(read));
              }
      }),
    );
    expect(saved).toBeGreaterThan(50);
  });
  it("ask once for all members of a dimension, whatever else is asked", () => {
    const of = (scope: CellQuery["scope"]): CellQuery => ({
      accounts: ["bread"],
      windows: [{ scenario: "actual", from: 1, to: 2 }],
      scope,
    });
    const bundles = bundleReads([of({}), ...["mill", "gate", "quay"].map((shop) => of({ shop: [shop] }))], DIMENSIONS);
    expect(bundles.map(({ query }) => query)).toEqual([
      of({}),
      { ...of({ shop: ["mill", "gate", "quay"] }), by: "shop" },
    ]);
  });
  it("keep apart what is asked by day", () => {
    const of = (shop: string, isByDay: boolean): CellQuery => ({
      accounts: ["bread"],
      windows: [],
      scope: { shop: [shop] },
      ...(isByDay ? { byDay: true } : {}),
    });
    const asked = [of("mill", true), of("gate", false)];
    expect(bundleReads(asked, DIMENSIONS).map(({ query }) => query)).toEqual(asked);
  });
});
