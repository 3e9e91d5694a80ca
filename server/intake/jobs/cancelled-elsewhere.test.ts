import { afterAll, beforeAll, expect, inject, it } from "vitest";
import type { Job } from "#contract/intake.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

const FILE = "month;account;route;amount\n2026-11;passenger_fares;tarn-point-osk;12.50\n";
let database: OwnDatabase;
let own: ApiClient;
let other: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "cancelled_elsewhere");
  own = await serveApi(database.knex);
  other = await serveApi(database.knex, { files: own.files });
  await Promise.all([own.signIn(ANALYST), other.signIn(ANALYST)]);
});
afterAll(async () => {
  await Promise.all([own.close(), other.close()]);
  await database.drop();
});

it("a posting is broken off by the server that does it, whichever was asked to, and nothing of it stays", async () => {
  const draft = await intakeClient(own).upload("november.csv", FILE);
  const loads = () => database.knex("load").count("* as n").first();
  const before = await loads();
  const held = await database.knex.transaction();
  try {
    await held.raw("lock table load in exclusive mode");
    const { body } = await own.send("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
    const { id } = body as Job;
    const state = async () => ((await other.get(`/api/jobs/${id}`)).body as Job).state;
    await expect.poll(state, { timeout: 60_000 }).toBe("running");
    const cancelled = await other.send("DELETE", `/api/jobs/${id}`);
    expect(cancelled.body).toMatchObject({ state: "cancelled", message: "Cancelled; nothing was posted." });
  } finally {
    await held.rollback();
  }
  expect(await loads()).toEqual(before);
});
