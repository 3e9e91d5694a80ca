import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Change } from "#contract/changes.ts";
import type { Pack } from "#contract/pack.ts";
import { MIGRATIONS } from "#server/db/migrate.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** Pages as they were kept when panels stood in a row, brought to the grid. */
let database: OwnDatabase;
let api: ApiClient;
const composedPages = MIGRATIONS.find(({ name }) => name === "010-composed-pages")!;
const later = MIGRATIONS.slice(MIGRATIONS.indexOf(composedPages) + 1);

beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "older_pages");
  const { knex } = database;
  const maker = await serveApi(knex);
  await maker.signIn(ANALYST);
  const chart = { kind: "time-chart", key: "an-older-chart", kpi: "fuel" } as const;
  await maker.putOn("/api/packs/monthly-review/pages/revenue/panels", chart);
  await maker.close();
  for (const migration of later.toReversed()) await migration.down(knex);
  await composedPages.down(knex);
  // What a change of a panel said then: its place in the row instead of one in the grid.
  await knex.raw(`
    update change set diff = jsonb_set(diff, '{added}', (
      select jsonb_object_agg(name, (record - 'place') || '{"position": 5, "version": 1}')
      from jsonb_each(diff->'added') as added(name, record)))
    where area = 'pack' and diff->'added' <> '{}'`);
  for (const migration of [composedPages, ...later]) await migration.up(knex);
  api = await serveApi(knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const packNow = async () => (await api.get("/api/packs/monthly-review")).body as Pack;
const revenue = (pack: Pack) => pack.pages.find(({ key }) => key === "revenue")!;

describe("pages of an older version", () => {
  it("stand in the grid, none over another, and are answered", async () => {
    const pack = await packNow();
    for (const { panels } of pack.pages)
      for (const [i, { place: a }] of panels.entries()) {
        expect(a.x + a.w).toBeLessThanOrEqual(24);
        for (const { place: b } of panels.slice(i + 1))
          expect(a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y).toBe(true);
      }
    const { status } = await api.get("/api/packs/monthly-review/pages/revenue/panels/an-older-chart");
    expect(status).toBe(200);
  });
  it("can be arranged, and an older change is still taken back", async () => {
    const path = "/api/packs/monthly-review/pages/revenue/changes";
    const before = (await api.get(path)).body as Change[];
    const undo = await api.send("POST", `/api/packs/monthly-review/changes/${before[0]!.id}/undo`);
    expect(undo.status).toBe(200);
    expect(revenue(await packNow()).panels.map(({ key }) => key)).not.toContain("an-older-chart");
    expect((await api.get(path)).body).toHaveLength(before.length + 1);
  });
});
