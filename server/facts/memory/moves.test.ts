import fc from "fast-check";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { monthOf, monthsBetween } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import type { CellQuery } from "#core/cube/cell-source.ts";
import { noteAllFactsChanged, noteChange } from "#server/db/data-version.ts";
import { listen } from "#server/db/listen.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { sqlFactSource } from "#server/facts/fact-source.ts";
import { noteMoved, setSlicesAside, type Slice } from "#server/intake/loads/set-aside.ts";
import { redoLoad, undoLoad } from "#server/intake/loads/undo-load.ts";
import { inBatches, openLoad, postFacts } from "#server/intake/post-facts.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { CellKeeper } from "./cell-keeper.ts";
import { MemoryBudget } from "./memory-budget.ts";
import { bookOf } from "./memory-book.ts";

let database: OwnDatabase;
let knex: Knex;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "memory_moves");
  ({ knex } = database);
});
afterAll(() => database.drop());

const ACCOUNTS = ["marine_fuel", "passenger_fares", "port_dues"];
const ROUTES = ["tarn-point-osk", "vardel-isenholm", "vardel-grey-ness"];
const [FIRST, LAST] = [monthOf(2026, 8), monthOf(2027, 1)];

const facts: fc.Arbitrary<Fact[]> = fc.array(
  fc.record({
    scenario: fc.constantFrom("actual", "budget"),
    account: fc.constantFrom(...ACCOUNTS),
    month: fc.integer({ min: FIRST, max: LAST }),
    day: fc.constant(null),
    members: fc.oneof(
      fc.constantFrom(...ROUTES).map((route) => ({ route })),
      fc.constantFrom("gannet", "petrel").map((vessel) => ({ vessel })),
      fc.constant({}),
    ),
    amount: fc.integer({ min: -1e7, max: 1e7 }),
    reference: fc.constant(null),
  }),
  { minLength: 1, maxLength: 12 },
);
const scopes = fc.constantFrom<CellQuery["scope"]>(
  {},
  { route: ["northreach"] },
  { route: ROUTES.slice(0, 2) },
  { vessel: ["gannet"] },
  { route: ["northreach"], vessel: ["gannet", "petrel"] },
);

/** What can happen to facts and to what they hang on; each leaves the database in a state of its own. */
const MOVES = {
  post: (given: Fact[]) => post(given, []),
  restate: async (given: Fact[]) => {
    const places = new Set(given.map((fact) => `${fact.scenario}/${fact.month}`));
    const { rows } = await knex.raw<{ rows: { load_id: number; scenario_id: number; key: string; month: number }[] }>(
      `select load_month.load_id, scenario_id, scenario.key, month from load_month
         join scenario on scenario.id = scenario_id join load on load.id = load_id join dataset on dataset.id = dataset_id
       where set_aside_by is null and dataset.key = 'management-accounts'`,
    );
    await post(
      given,
      rows
        .filter((row) => places.has(`${row.key}/${row.month}`))
        .map((row) => ({ loadId: row.load_id, scenarioId: row.scenario_id, month: row.month })),
    );
  },
  undo: () => turn("undo"),
  redo: () => turn("redo"),
  "move a member": async () => {
    // A route changes its sea area: what the areas add up to changes, and no fact does.
    await knex.transaction(async (trx) => {
      const area: { id: number } | undefined = await trx("member")
        .whereIn("key", ["northreach", "lantern-bay"])
        .orderByRaw("random()")
        .first("id");
      await trx("member").where({ key: "vardel-grey-ness" }).update({ parent_id: area!.id });
      await noteChange(trx);
    });
  },
  restart: () => {
    keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
    return Promise.resolve();
  },
  "replace all": () => noteAllFactsChanged(knex),
} satisfies Record<string, (given: Fact[]) => Promise<void>>;
let keeper: CellKeeper;

async function post(given: readonly Fact[], aside: readonly Slice[]): Promise<void> {
  const structure = await structureReader(knex)();
  await knex.transaction(async (trx) => {
    const load = await openLoad(trx, {
      dataset: "management-accounts",
      fileName: "more.csv",
      postedBy: "Maren Holt",
      postedAt: new Date(),
    });
    await setSlicesAside(trx, load.id, aside);
    await postFacts(trx, structure, load, inBatches(given));
    await noteMoved(trx, aside);
  });
}

/** Undoes the last load that counts, or brings back the first that does not; where that is refused, nothing moves. */
async function turn(what: "undo" | "redo"): Promise<void> {
  const { calendar } = await structureReader(knex)();
  const loads = knex("load").where({ file_name: "more.csv" });
  const load: { id: number } | undefined = await (what === "undo"
    ? loads.whereNull("undone_at").orderBy("id", "desc").first("id")
    : loads.whereNotNull("undone_at").orderBy("id").first("id"));
  if (!load) return;
  await knex
    .transaction((trx) =>
      what === "undo" ? undoLoad(trx, load.id, "Maren Holt", calendar) : redoLoad(trx, load.id, calendar),
    )
    .catch(() => {});
}

/** All sums of a scope, from memory and by SQL. */
async function compare(scope: CellQuery["scope"]): Promise<number> {
  const structure = await structureReader(knex)();
  const kept = keeper.at(structure.facts);
  if (!kept) throw new Error("memory is behind the facts");
  const windows = ["actual", "budget"].map((scenario) => ({ scenario, from: FIRST, to: LAST }));
  const [page] = await sqlFactSource(knex, structure).pages([{ accounts: ACCOUNTS, windows, scope }]);
  const book = bookOf(structure, kept);
  const found = windows.map(({ scenario, from, to }) =>
    Float64Array.from(
      ACCOUNTS.flatMap((account) =>
        monthsBetween(from, to).map((month) =>
          book.sum({ scenario, accounts: [account], months: [month], scope, days: undefined }),
        ),
      ),
    ),
  );
  expect(found).toEqual(page!.grids);
  return found.flatMap((grid) => [...grid]).filter((sum) => sum !== 0).length;
}

describe("memory", () => {
  it("equals SQL after whatever happened to facts and structure, reading anew only what moved", async () => {
    keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
    let sums = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.constantFrom(...(Object.keys(MOVES) as (keyof typeof MOVES)[])), facts, scopes), {
          minLength: 4,
          maxLength: 10,
        }),
        async (moves) => {
          for (const [move, given, scope] of moves) {
            await MOVES[move](given);
            await keeper.refresh();
            sums += await compare(scope);
          }
        },
      ),
      { numRuns: 4 },
    );
    expect(sums).toBeGreaterThan(200);
  });

  it("keeps the blocks of what did not change", async () => {
    await keeper.refresh();
    const read = async () => keeper.at((await structureReader(knex)()).facts)!;
    const before = await read();
    const only: Fact = { ...fc.sample(facts, 1)[0]![0]!, scenario: "actual", month: LAST };
    await post([only], []);
    await keeper.refresh();
    const after = await read();
    expect(after).not.toBe(before);
    const blocks = ({ datasets }: typeof before) => datasets.flatMap((d) => [...d.blocks.values()]);
    const kept = new Set(blocks(before));
    expect(blocks(after).filter((block) => !kept.has(block))).toMatchObject([{ month: LAST }]);
  });

  it("is told of what others commit, also after the connection was lost", async () => {
    let told = 0;
    const tell = () => void (told += 1);
    const following = listen(database.url, { channels: { data_version: tell }, onConnected: tell });
    const until = async (count: number) => {
      for (let i = 0; told < count && i < 400; i += 1) await new Promise((resolve) => setTimeout(resolve, 25));
      expect(told).toBeGreaterThanOrEqual(count);
    };
    await until(1);
    await noteChange(knex);
    await until(2);
    await knex.raw(
      "select pg_terminate_backend(pid) from pg_stat_activity where query = 'listen data_version' and datname = current_database()",
    );
    await until(3);
    const before = told;
    await noteChange(knex);
    await until(before + 1);
    await following.stop();
  });
});
