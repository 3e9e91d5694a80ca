import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Knex } from "knex";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { urlOfCompany } from "#server/companies/registry.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { connect } from "./connect.ts";
import { lock, tryLock } from "./locks.ts";

let database: OwnDatabase;
let other: Knex;
let narrow: Knex;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "locks", { empty: true });
  await database.knex.raw("create schema company_other");
  other = connect(urlOfCompany(database.url, "company_other"), { poolSize: 2, patience: "requests" });
  narrow = connect(database.url, { poolSize: 2, patience: "requests", acquireMs: 500 });
});
afterAll(async () => {
  await Promise.all([other.destroy(), narrow.destroy()]);
  await database.drop();
});

describe("a lock", () => {
  it("is its company's: another one takes the same at once", async () => {
    await database.knex.transaction(async (trx) => {
      await lock(trx, "structure");
      await lock(trx, "pack", { of: "review" });
      await other.transaction(async (theirs) => {
        expect(await tryLock(theirs, "structure")).toBe(true);
        expect(await tryLock(theirs, "pack", { of: "review" })).toBe(true);
        expect(await tryLock(theirs, "registry")).toBe(true);
      });
      await narrow.transaction(async (ours) => {
        expect(await tryLock(ours, "structure")).toBe(false);
        expect(await tryLock(ours, "pack", { of: "review" })).toBe(false);
        expect(await tryLock(ours, "pack", { of: "another" })).toBe(true);
        expect(await tryLock(ours, "kpis")).toBe(true);
      });
    });
    await narrow.transaction(async (trx) => expect(await tryLock(trx, "structure")).toBe(true));
  });
  it("that somebody else keeps is said to be kept, and not that the database is away", async () => {
    await database.knex.transaction(async (trx) => {
      await lock(trx, "structure");
      const waiting = narrow.transaction(async (ours) => {
        await ours.raw("set local lock_timeout = '100ms'");
        await lock(ours, "structure");
      });
      const problem = await waiting.then(
        () => undefined,
        (error: unknown) => toProblem(error),
      );
      expect([problem?.code, problem?.message]).toEqual(["busy", expect.stringContaining("Someone else is changing")]);
    });
  });
});

describe("a pool", () => {
  it("with no free connection says that, and serves again once there is one", async () => {
    const held = [narrow.raw("select pg_sleep(2)"), narrow.raw("select pg_sleep(2)")];
    // Knex sends a query only when somebody waits for it.
    const slept = Promise.all(held);
    await new Promise((resolve) => setTimeout(resolve, 100));
    const problem = await narrow.raw("select 1").then(
      () => undefined,
      (error: unknown) => toProblem(error),
    );
    expect([problem?.code, problem?.message]).toEqual(["busy", expect.stringContaining("All connections")]);
    await slept;
    await narrow.raw("select 1");
  });
  it("gives a question up that does not end, and says so", async () => {
    const problem = await narrow
      .transaction(async (trx) => {
        await trx.raw("set local statement_timeout = '50ms'");
        await trx.raw("select pg_sleep(10)");
      })
      .then(
        () => undefined,
        (error: unknown) => toProblem(error),
      );
    expect([problem?.code, problem?.message]).toEqual(["busy", expect.stringContaining("took longer")]);
    const { rows } = await narrow.raw<{ rows: { name: string; setting: string }[] }>(
      "select name, setting from pg_settings where name in ('lock_timeout', 'statement_timeout') order by name",
    );
    expect(rows).toEqual([
      { name: "lock_timeout", setting: "4000" },
      { name: "statement_timeout", setting: "60000" },
    ]);
  });
});
