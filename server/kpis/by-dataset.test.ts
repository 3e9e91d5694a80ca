import { afterAll, beforeAll, expect, inject, it } from "vitest";
import type { FrameChoices } from "#core/frame/frame-choices.ts";
import type { FormulaTried } from "#contract/kpis.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { delimited } from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";

/** Two datasets whose months are not the same: each is closed as far as it goes itself. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "by-dataset", { empty: true });
  api = await serveApi(database.knex);
  await startCompany(api);
  client = intakeClient(api);
  const post = async (name: string, measure: string, months: readonly string[]) => {
    const rows = months.map((month, i) => [month, "A", String(100 + i)]);
    const draft = await client.upload(name, delimited([["Month", "Shop", measure], ...rows], ","));
    expect(await client.post(draft)).toMatchObject({ state: "done" });
  };
  await post("Ledger.csv", "Revenue", ["2026-04", "2026-05", "2026-06"]);
  await post("Visits.csv", "Footfall", ["2026-01", "2026-02", "2026-03"]);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const tried = async (formula: string, frame = {}) => {
  const { body } = await api.send("POST", "/api/formula/try", { formula, self: null, ...frame });
  return body as Exclude<FormulaTried, { problem: unknown }>;
};

it("a formula is tried as of the last closed month of what it reads", async () => {
  expect((await tried("footfall")).figures[0]).toMatchObject({ name: "March FY26", actual: { value: 102 } });
  expect((await tried("revenue")).figures[0]).toMatchObject({ name: "June FY26", actual: { value: 102 } });
  // Of both, the month that both have; a month that is asked for is that month.
  expect((await tried("revenue / footfall")).figures[0]).toMatchObject({ name: "March FY26" });
  expect((await tried("footfall", { asOf: "2026-02" })).figures[0]).toMatchObject({
    name: "February FY26",
    actual: { value: 101 },
  });
});

it("a pack offers the months of its own dataset, and says how far that is closed", async () => {
  const choices = await client.get<FrameChoices>("/api/frame?pack=visits");
  expect(choices.lastClosed).toBe("2026-03");
  expect(choices.asOfChoices.map(({ month, isClosed }) => [month, isClosed])).toEqual([
    ["2026-03", true],
    ["2026-02", true],
    ["2026-01", true],
  ]);
  const ledger = await client.get<FrameChoices>("/api/frame?pack=ledger");
  expect([ledger.lastClosed, ledger.asOfChoices.length]).toEqual(["2026-06", 3]);
});
