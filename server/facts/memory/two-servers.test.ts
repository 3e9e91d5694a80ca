import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { nextMonthLedger } from "#demo/generate/feed.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import { connect } from "#server/db/connect.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let elsewhere: Knex;
let one: ApiClient;
let other: ApiClient;
let sums = 0;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "two_servers");
  elsewhere = connect(database.url);
  elsewhere.on("query", ({ sql }: { sql: string }) => {
    if (/group by dataset_id, scenario_id, account_id/.test(sql)) sums += 1;
  });
  one = await serveApi(database.knex, IN_MEMORY);
  // Whichever server reads a file, both reach it.
  other = await serveApi(elsewhere, { ...IN_MEMORY, files: one.files });
  await Promise.all([one.signIn(ANALYST), other.signIn(ANALYST)]);
});
afterAll(async () => {
  await Promise.all([one.close(), other.close()]);
  await elsewhere.destroy();
  await database.drop();
});

const figures = async (api: ApiClient) => {
  const { body } = await api.get("/api/packs/monthly-review/pages/cover/panels/scorecard?asOf=2026-11&span=month");
  return (body as AnswerOf<"scorecard">).groups.flatMap((g) => g.rows).map(({ kpi, actual }) => [kpi.key, actual]);
};
/** Asks until no figure had to be read from the database: memory has followed. */
const fromMemory = async (api: ApiClient) => {
  for (let attempt = 0; attempt < 200; attempt += 1) {
    const before = sums;
    const found = await figures(api);
    if (sums === before) return found;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error("memory does not follow");
};

describe("two servers on one database", () => {
  it("see each other's loads and undos at once, by SQL first and from memory soon after", async () => {
    const before = await figures(one);
    expect(await fromMemory(other)).toEqual(before);
    const client = intakeClient(one);
    let draft = await client.upload("november-ledger.csv", nextMonthLedger().text);
    draft = await client.change(draft, {
      rules: {
        ...draft.definition.rules,
        rejectedRules: ["no-amount", "unknown-account"],
        mapping: { ...draft.definition.rules.mapping, fractions: "round" },
      },
    });
    const { loadId } = await client.post(draft);
    const after = await figures(other);
    expect(after).not.toEqual(before);
    expect(await fromMemory(other)).toEqual(after);
    expect(await figures(one)).toEqual(after);

    expect((await other.send("POST", `/api/loads/${loadId}/undo`, {})).status).toBe(200);
    expect(await figures(one)).toEqual(before);
    expect(await fromMemory(other)).toEqual(before);
  });
});
