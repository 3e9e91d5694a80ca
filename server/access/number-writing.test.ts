import { afterAll, beforeAll, expect, inject, it } from "vitest";
import type { Company } from "#contract/companies.ts";
import type { Session } from "#contract/session.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** How numbers are written is the company's, and a reader's own choice: in words, and in what is handed out. */
let database: OwnDatabase;
let maren: ApiClient;
let other: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "writing");
  maren = await serveApi(database.knex);
  other = await serveApi(database.knex);
  await maren.signIn(ANALYST);
  await other.signIn("clara.oduya@quillhaven.example");
});
afterAll(async () => {
  await maren.close();
  await other.close();
  await database.drop();
});

const PANEL = "/api/packs/monthly-review/pages/cover/panels/scorecard";
const choose = (api: ApiClient, numbers: string | null) => api.send("PUT", "/api/session/writing", { numbers });
/** The words of the scorecard on the cover, whichever way it is asked. */
const words = async (api: ApiClient) => JSON.stringify((await api.get(PANEL)).body);
const page = async (api: ApiClient) =>
  JSON.stringify((await api.get("/api/packs/monthly-review/pages/cover/answers")).body);

it("is chosen by each reader for themselves, and by the company for all others", async () => {
  const [mine, theirs] = [await words(maren), await words(other)];
  expect(mine).toMatch(/\d\.\d%/);
  expect((await choose(maren, "1.234,5")).body as Session).toMatchObject({ numbers: "1.234,5" });
  expect(await words(maren)).toMatch(/\d,\d%/);
  expect(await words(maren)).not.toMatch(/\d\.\d%/);
  expect(await page(maren)).not.toEqual(await page(other));
  // What one reader chose is nobody else's.
  expect(await words(other)).toBe(theirs);
  expect((await choose(maren, null)).status).toBe(200);
  expect(await words(maren)).toBe(mine);
  expect((await choose(maren, "12.345")).status).toBe(400);
});

it("is in files of tables: decimals behind a comma, and then cells apart by semicolons", async () => {
  const file = async () => String((await maren.get(`${PANEL}.csv`)).body);
  const plain = (await file()).trim().split("\r\n").slice(1);
  await choose(maren, "1 234,5");
  const written = (await file()).trim().split("\r\n").slice(1);
  expect(written).toHaveLength(plain.length);
  await choose(maren, null);
  expect(plain.some((row) => /,-?\d+\.\d+/.test(row))).toBe(true);
  expect(written.filter((row) => !row.includes(";") || /;-?\d+\.\d+(;|$)/.test(row))).toEqual([]);
  expect(written.some((row) => /;-?\d+,\d+/.test(row))).toBe(true);
});

it("of the company is changed by an administrator, and said with the company", async () => {
  expect((await maren.send("PUT", "/api/company", { numbers: "1’234.5" })).status).toBe(403);
  await database.knex("company").update({ numbers: "1’234.5" });
  expect((await maren.get("/api/company")).body as Company).toMatchObject({ numbers: "1’234.5" });
  expect((await maren.get("/api/session")).body as Session).toMatchObject({
    numbers: null,
    company: { numbers: "1’234.5" },
  });
});

it("of days is a reader's own choice too, down to the source lines", async () => {
  const lines = async (api: ApiClient) =>
    JSON.stringify((await api.get("/api/provenance/lines?kpi=carried&side=actual&span=month")).body);
  const theirs = await lines(other);
  expect(theirs).toMatch(/"period":"\d+ October 2026"/);
  const chosen = await maren.send("PUT", "/api/session/writing", { dates: "November 30, 2026" });
  expect(chosen.body as Session).toMatchObject({ dates: "November 30, 2026", numbers: null });
  expect(await lines(maren)).toMatch(/"period":"October \d+, 2026"/);
  expect(await lines(other)).toBe(theirs);
  expect((await maren.send("PUT", "/api/session/writing", { dates: "30.11.2026" })).status).toBe(400);
});
