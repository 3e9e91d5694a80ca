import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { monthOf } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { EVERYTHING } from "#core/dimensions/scope.ts";
import { migrate, MIGRATIONS } from "#server/db/migrate.ts";
import { structureReader, type Structure } from "#server/db/structure.ts";
import { sqlFactSource } from "#server/facts/fact-source.ts";
import { inBatches, openLoad, postFacts } from "#server/intake/post-facts.ts";
import { loadSample } from "#launch/sample.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let knex: Knex;
let read: () => Promise<Structure>;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "posting");
  ({ knex } = database);
  read = structureReader(knex);
});
afterAll(() => database.drop());

const NOVEMBER = monthOf(2026, 11);
const line = (change: Partial<Fact> = {}): Fact => ({
  scenario: "actual",
  account: "passenger_fares",
  month: NOVEMBER,
  day: null,
  members: { route: "tarn-point-osk" },
  amount: 123_45,
  reference: "tab\there, back\\slash",
  ...change,
});
const post = async (lines: Fact[]) => {
  const structure = await read();
  return knex.transaction(async (trx) => {
    const load = await openLoad(trx, {
      dataset: "management-accounts",
      fileName: "november.csv",
      postedBy: "Maren Holt",
      postedAt: new Date(),
    });
    return postFacts(trx, structure, load, inBatches(lines));
  });
};
const counts = async () =>
  Promise.all(
    ["fact", "load", "load_account", "load_month"].map(async (table) =>
      Number(((await knex(table).count("* as n").first()) as { n: string }).n),
    ),
  );

describe("posting", () => {
  it("leaves nothing behind when a line cannot be posted", async () => {
    const before = await counts();
    await expect(post([line(), line({ account: "pasenger_fares" })])).rejects.toThrow(
      'november.csv, line 2: there is no account "pasenger_fares".',
    );
    await expect(post([line({ members: { route: "atlantis" } })])).rejects.toThrow('there is no route "atlantis"');
    await expect(post([line({ day: 32 })])).rejects.toThrow();
    expect(await counts()).toEqual(before);
  });
  it("keeps amounts to the cent, references as they are, and moves coverage and version on", async () => {
    const before = await read();
    await post([line(), line({ amount: -45, reference: null }), line({ amount: 2 ** 45 })]);
    const after = await read();
    expect(Number(after.version)).toBeGreaterThan(Number(before.version));
    const source = sqlFactSource(knex, after);
    const cells = await source.cells({
      accounts: ["passenger_fares"],
      windows: [{ scenario: "actual", from: NOVEMBER, to: NOVEMBER }],
      scope: EVERYTHING,
    });
    expect(cells).toEqual([
      { scenario: "actual", account: "passenger_fares", month: NOVEMBER, amount: 123_00 + 2 ** 45 },
    ]);
    const { lines } = await source.lines({
      places: [{ scenario: "actual", months: [NOVEMBER] }],
      accounts: ["passenger_fares"],
      scope: EVERYTHING,
      offset: 0,
      limit: 10,
    });
    expect(lines.map((l) => [l.load, l.line, l.reference])).toContainEqual([
      "november.csv",
      1,
      "tab\there, back\\slash",
    ]);
  });
  it("restores the sample company whatever was posted since", async () => {
    const fingerprint = async () =>
      (
        await knex.raw<{ rows: unknown[] }>(
          "select count(*)::text, sum(amount)::text, sum(amount * month)::text, sum(amount * line)::text from fact",
        )
      ).rows;
    await loadSample(knex);
    const first = await fingerprint();
    await post([line()]);
    expect(await fingerprint()).not.toEqual(first);
    await loadSample(knex);
    expect(await fingerprint()).toEqual(first);
  });
  it("can take the schema down and up again", async () => {
    for (const migration of MIGRATIONS.toReversed()) await migration.down(knex);
    await knex("knex_migrations").delete();
    expect(await migrate(knex)).toEqual(MIGRATIONS.map((m) => m.name));
    expect(await migrate(knex)).toEqual([]);
  });
});
