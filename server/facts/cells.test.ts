import fc from "fast-check";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { LAST_DAY } from "#core/calendar/days.ts";
import { monthOf, monthsBetween } from "#core/calendar/month.ts";
import type { Cell, CellQuery } from "#core/cube/cell-source.ts";
import { ACCOUNTS } from "#demo/company/accounts.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { connect } from "#server/db/connect.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { bookOf } from "#server/facts/memory/memory-book.ts";
import { cellsOfFacts } from "#testing/fact-cells.ts";
import { sqlFactSource, type SqlFactSource } from "#server/facts/fact-source.ts";

let knex: Knex;
let source: SqlFactSource;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  source = sqlFactSource(knex, await structureReader(knex)());
});
afterAll(() => knex.destroy());

const sorted = (cells: readonly Cell[]) =>
  cells.map((c) => JSON.stringify([c.scenario, c.account, c.month, c.amount, c.member])).sort();
const leaves = ACCOUNTS.filter((a) => !ACCOUNTS.some((b) => b.parent === a.key)).map((a) => a.key);
const early = fc.integer({ min: monthOf(2023, 1), max: monthOf(2026, 9) });
const late = fc.integer({ min: monthOf(2025, 1), max: monthOf(2027, 6) });
const queries: fc.Arbitrary<CellQuery> = fc
  .record({
    accounts: fc.uniqueArray(fc.constantFrom(...leaves), { minLength: 1, maxLength: 8 }),
    windows: fc.uniqueArray(
      fc.record({
        scenario: fc.constantFrom("actual", "budget", "forecast-3-9", "forecast-6-6", "target"),
        from: early,
        to: late,
      }),
      { selector: (w) => w.scenario, minLength: 1, maxLength: 3 },
    ),
    scope: fc.oneof(
      fc.constant({}),
      ...DIMENSIONS.map((d) =>
        fc
          .subarray(
            d.members.map((m) => m.key),
            { minLength: 1, maxLength: 3 },
          )
          .map((members) => ({ [d.key]: members })),
      ),
      fc.constant({ route: ["northreach"], vessel: ["gannet", "petrel"] }),
    ),
    byDay: fc.boolean(),
    by: fc.option(fc.constantFrom(...DIMENSIONS.map((d) => d.key)), { nil: undefined }),
  })
  .map(({ byDay, by, ...query }): CellQuery => ({
    ...query,
    ...(byDay ? { byDay: true } : {}),
    ...(by === undefined ? {} : { by }),
  }));

const DAYS = Array.from({ length: LAST_DAY }, (_, i) => ({ from: i + 1, to: i + 1 }));

describe("cells in memory", () => {
  it("are those by SQL, for any query", async () => {
    const structure = await structureReader(knex)();
    const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
    await keeper.refresh();
    const book = bookOf(structure, keeper.at(structure.facts)!);
    let sums = 0;
    await fc.assert(
      fc.asyncProperty(queries, async ({ by: _, ...query }) => {
        const [page] = await source.pages([query]);
        sums += page!.grids.flatMap((grid) => [...grid]).filter((sum) => sum !== 0).length;
        const found = query.windows.map(({ scenario, from, to }) =>
          Float64Array.from(
            query.accounts.flatMap((account) =>
              monthsBetween(from, to).flatMap((month) =>
                (query.byDay ? DAYS : [undefined]).map((days) =>
                  book.sum({ accounts: [account], months: [month], scenario, scope: query.scope, days }),
                ),
              ),
            ),
          ),
        );
        expect(found).toEqual(page!.grids);
      }),
      { numRuns: 120 },
    );
    expect(sums).toBeGreaterThan(500);
  });
  it("stay in the database where they would take more than they may, and say so", async () => {
    const said: unknown[] = [];
    const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(1000), (state) => said.push(state));
    await keeper.refresh();
    expect(keeper.state).toMatchObject({ is: "beyond", budget: 1000 });
    expect(said).toEqual([keeper.state]);
    const { facts } = await structureReader(knex)();
    let queries = 0;
    const count = () => (queries += 1);
    knex.on("query", count);
    // Not every reader tries again what cannot fit; only other facts may.
    for (let reader = 0; reader < 3; reader += 1) expect(keeper.at(facts)).toBeUndefined();
    await keeper.settled();
    expect(queries).toBe(0);
    expect(keeper.at("0")).toBeUndefined();
    await keeper.settled();
    expect(queries).toBeGreaterThan(0);
    knex.off("query", count);
  });
});

describe("cells by SQL", () => {
  it("equal those found the slow way, for any query", async () => {
    let cells = 0;
    await fc.assert(
      fc.asyncProperty(queries, async (query) => {
        const wanted = cellsOfFacts(query);
        cells += wanted.length;
        expect(sorted(await source.cells(query))).toEqual(sorted(wanted));
      }),
      { numRuns: 120 },
    );
    expect(cells).toBeGreaterThan(500);
  });
  it("of the parts of a dimension add up to the whole, where an account is kept by it", async () => {
    const windows = [{ scenario: "actual", from: monthOf(2026, 4), to: monthOf(2026, 10) }];
    const total = async (scope: CellQuery["scope"]) =>
      (await source.cells({ accounts: ["marine_fuel"], windows, scope })).reduce((sum, c) => sum + c.amount, 0);
    const areas = await Promise.all(
      ["skerry-sound", "lantern-bay", "northreach"].map((area) => total({ route: [area] })),
    );
    expect(areas.reduce((a, b) => a + b, 0)).toBe(await total({}));
    const all = DIMENSIONS[0]!.members.map((m) => m.key);
    expect(await total({ route: all })).toBe(await total({}));
  });
});
