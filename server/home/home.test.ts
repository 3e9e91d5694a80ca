import { noteAllFactsChanged } from "#server/db/data-version.ts";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { recordsOfPack, type PackRecord, type PanelRecord } from "#contract/pack-records.ts";
import { diffRecords, type Records } from "#core/history/records-diff.ts";
import type { Home } from "#contract/home.ts";
import type { Pack, PackChanged } from "#contract/pack.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "home");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
const home = async () => (await api.get("/api/home")).body as Home;

describe("home", () => {
  it("says of the sample company that November is open and what it lacks", async () => {
    const { openMonth } = await home();
    expect(openMonth).toMatchObject({ month: "2026-11", name: "November FY27" });
    expect(openMonth!.datasets.map(({ name, words, closes }) => [name, words, closes])).toEqual([
      ["Management accounts", "nothing yet", true],
      ["Daily operations", "to day 17 of 30", false],
    ]);
  });
  it("lists what the pages show as unfavourable or poor, most tolerances off first, by the same figures", async () => {
    const { offPlan } = await home();
    expect(offPlan!.frame).toBe("October FY27, year to date, against Budget");
    const teeth = offPlan!.kpis.map((k) => Math.abs(k.variance.tolerances ?? 0));
    expect(teeth).toEqual([...teeth].sort((a, b) => b - a));
    const { body } = await api.get("/api/packs/monthly-review/pages/cover/panels/scorecard");
    const rows = (body as AnswerOf<"scorecard">).groups.flatMap((g) => g.rows);
    for (const row of rows) {
      const listed = offPlan!.kpis.find((k) => k.kpi.key === row.kpi.key);
      const isBad =
        row.status && "grade" in row.status ? row.status.grade === "poor" : row.variance.judgement === "unfavourable";
      expect([row.kpi.key, listed !== undefined]).toEqual([row.kpi.key, isBad]);
      if (listed) expect(listed.variance).toEqual(row.variance);
    }
    expect(offPlan!.kpis[0]).toMatchObject({ kpi: { key: "fuel" }, page: { pack: "monthly-review", page: "cover" } });
  });
  it("speaks of a reader's own rows", async () => {
    const all = await home();
    await api.signIn(SKERRY_MANAGER);
    const own = await home();
    const { body } = await api.get("/api/packs/monthly-review/pages/cover/panels/scorecard?scope=route:skerry-sound");
    await api.signIn(ANALYST);
    const fuel = (body as AnswerOf<"scorecard">).groups.flatMap((g) => g.rows).find((r) => r.kpi.key === "fuel")!;
    const listed = own.offPlan!.kpis.find((k) => k.kpi.key === "fuel");
    expect(listed?.variance ?? fuel.variance).toEqual(fuel.variance);
    expect(JSON.stringify(own.offPlan)).not.toBe(JSON.stringify(all.offPlan));
  });
  it("tells what others changed on the pages, not what one did oneself, nor what was taken back", async () => {
    const records = recordsOfPack((await api.get("/api/packs/monthly-review")).body as Pack);
    const page = "page/monthly-review/cover";
    const diff = diffRecords(records, { ...records, [page]: { ...(records[page] as object), name: "Front page" } });
    const changed = await api.send("POST", "/api/packs/monthly-review/edits", { edit: crypto.randomUUID(), diff });
    expect(changed.status).toBe(200);
    expect((await home()).news).toEqual([]);
    await api.signIn(SKERRY_MANAGER);
    expect((await home()).news).toMatchObject([
      { by: "Maren Holt", page: { pack: "monthly-review", page: "cover", name: "Front page" } },
    ]);
    await api.signIn(ANALYST);
    const { change } = changed.body as PackChanged;
    await api.send("POST", `/api/packs/monthly-review/changes/${change}/undo`, {});
    await api.signIn(SKERRY_MANAGER);
    expect((await home()).news).toEqual([]);
    await api.signIn(ANALYST);
  });
  it("tells once what was done twice in a row, and nothing of packs that are retired", async () => {
    const edit = async (change: (records: Records) => Records, key = "monthly-review") => {
      const now = recordsOfPack((await api.get(`/api/packs/${key}`)).body as Pack);
      const diff = diffRecords(now, change(now));
      const made = await api.send("POST", `/api/packs/${key}/edits`, { edit: crypto.randomUUID(), diff });
      expect(made.status).toBe(200);
      return (made.body as PackChanged).change;
    };
    const panel = "panel/monthly-review/revenue/over-time";
    const titled = (decimals: number) => (records: Records) => {
      const own = records[panel] as PanelRecord;
      return { ...records, [panel]: { ...own, definition: { ...own.definition, decimals } } } as Records;
    };
    const changes = [await edit(titled(1)), await edit(titled(2))];
    await api.signIn(SKERRY_MANAGER);
    expect((await home()).news).toMatchObject([{ said: "Arranged the chart over time", page: { page: "revenue" } }]);
    await api.signIn(ANALYST);
    changes.push(
      await edit((records) => {
        const pack = records["pack/monthly-review"] as PackRecord;
        return { ...records, "pack/monthly-review": { ...pack, isRetired: true } } as Records;
      }),
    );
    await api.signIn(SKERRY_MANAGER);
    expect((await home()).news.map(({ said }) => said)).toEqual(["Retired Monthly review"]);
    await api.signIn(ANALYST);
    for (const change of changes.toReversed())
      await api.send("POST", `/api/packs/monthly-review/changes/${change}/undo`, {});
  });
  it("has nothing to say before the first month is loaded, and says so", async () => {
    const empty = await openOwnDatabase(inject("clusterUrl"), "home_empty");
    await empty.knex("fact").delete();
    await empty.knex("load_month").delete();
    await noteAllFactsChanged(empty.knex);
    const bare = await serveApi(empty.knex);
    await bare.signIn(ANALYST);
    expect(await bare.get("/api/home")).toMatchObject({ status: 200, body: { openMonth: null, offPlan: null } });
    await bare.close();
    await empty.drop();
  });
});
