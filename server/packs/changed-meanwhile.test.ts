import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { diffRecords } from "#core/history/records-diff.ts";
import type { Change } from "#contract/changes.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { Pack, PackChanged, PlacedPanel } from "#contract/pack.ts";
import { pageRecord, panelRecord, recordName, type PanelRecord } from "#contract/pack-records.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { ANALYST, SKERRY_MANAGER, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

const PACK = "/api/packs/monthly-review";
const COVER = `${PACK}/pages/cover`;

let database: OwnDatabase;
/** Two people with the same page open. */
let one: ApiClient;
let other: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "meanwhile");
  [one, other] = await Promise.all([serveApi(database.knex), serveApi(database.knex)]);
  await Promise.all([one.signIn(ANALYST), other.signIn(ANALYST)]);
});
afterAll(async () => {
  await Promise.all([one.close(), other.close()]);
  await database.drop();
});

const packNow = async () => (await one.get(PACK)).body as Pack;
const panelsOf = async (page = "cover"): Promise<readonly PlacedPanel[]> =>
  (await packNow()).pages.find((p) => p.key === page)!.panels;
const panelNow = async (key: string) => (await panelsOf()).find((p) => p.key === key)!;
const titleNow = async (key: string) => (await panelNow(key)).definition.title;
const nameOf = (panel: string, page = "cover") => recordName({ kind: "panel", pack: "monthly-review", page, panel });

type Told = PackChanged & {
  detail: string;
  both: { record: string } & Record<"current" | "yours", PanelRecord | null>;
};
/** Sends a difference as a client does that saw `seen` and wants `next` of it; `null` takes it away. */
async function change(api: ApiClient, seen: PlacedPanel, next: Partial<PanelDefinition> | null, edit = randomUUID()) {
  const from = panelRecord(seen);
  const name = nameOf(seen.key);
  const after = next && { ...from, definition: { ...from.definition, ...next } };
  const diff = diffRecords({ [name]: from }, after ? { [name]: after } : {});
  const { status, body } = await api.send("POST", `${PACK}/edits`, { edit, diff });
  return { status, body: body as Told };
}
const titled = (api: ApiClient, seen: PlacedPanel, title: string) => change(api, seen, { title });
const undo = (change: number, path = `${PACK}/changes`) => one.send("POST", `${path}/${change}/undo`);

describe("two people with one page open", () => {
  it("who change the same setting: the second keeps both versions, and nothing is lost", async () => {
    const seen = await panelNow("scorecard");
    expect((await titled(one, seen, "Mine")).status).toBe(200);
    const refused = await titled(other, seen, "Theirs");
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain("its title");
    expect(refused.body.both.record).toBe(nameOf("scorecard"));
    expect(refused.body.both.current!.definition["title"]).toBe("Mine");
    expect(refused.body.both.yours!.definition["title"]).toBe("Theirs");
    expect(await titleNow("scorecard")).toBe("Mine");
    // On top of what is there now it goes through.
    expect((await titled(other, await panelNow("scorecard"), "Theirs")).status).toBe(200);
    expect(await titleNow("scorecard")).toBe("Theirs");
  });
  it("who change different settings of one panel both get what they wanted", async () => {
    const seen = await panelNow("scorecard");
    expect((await titled(one, seen, "A title")).status).toBe(200);
    expect((await change(other, seen, { subtitle: "A subtitle" })).status).toBe(200);
    expect((await panelNow("scorecard")).definition).toMatchObject({ title: "A title", subtitle: "A subtitle" });
  });
  it("who arrange different panels both get what they wanted", async () => {
    const [scorecard, chart] = [await panelNow("scorecard"), await panelNow("over-time")];
    const answers = await Promise.all([titled(one, scorecard, "A scorecard"), titled(other, chart, "A chart")]);
    expect(answers.map((a) => a.status)).toEqual([200, 200]);
    expect([await titleNow("scorecard"), await titleNow("over-time")]).toEqual(["A scorecard", "A chart"]);
  });
  it("and one takes off what the other arranged: told, and still there; only moved: it goes", async () => {
    const seen = await panelNow("over-time");
    await titled(one, seen, "Still read");
    expect((await change(other, seen, null)).status).toBe(409);
    expect(await titleNow("over-time")).toBe("Still read");
    const before = await panelNow("over-time");
    await one.edit("monthly-review", (records) => ({
      ...records,
      [nameOf("over-time")]: { ...panelRecord(before), place: { x: 3, y: 90, w: 9, h: 30 } },
    }));
    const gone = await change(other, before, null);
    expect(gone.status).toBe(200);
    expect((await undo(gone.body.change!)).status).toBe(200);
    expect((await panelNow("over-time")).place).toEqual({ x: 3, y: 90, w: 9, h: 30 });
  });
  it("and an edit that comes twice, since its answer was lost, is done once", async () => {
    const seen = await panelNow("scorecard");
    const edit = randomUUID();
    const first = await change(one, seen, { title: "Once" }, edit);
    await titled(one, await panelNow("scorecard"), "Then this");
    const second = await change(one, seen, { title: "Once" }, edit);
    expect([second.status, second.body.change]).toEqual([200, first.body.change]);
    expect(await titleNow("scorecard")).toBe("Then this");
  });
  it("and a page that one removes takes along what the other put on it; taken back, all of it is there", async () => {
    await one.putOn(`${PACK}/pages/revenue/panels`, { key: "late", kind: "time-chart", kpi: "fuel" });
    const before = (await packNow()).pages.find((p) => p.key === "revenue")!;
    const name = "page/monthly-review/revenue";
    const removed = await other.send("POST", `${PACK}/edits`, {
      edit: randomUUID(),
      diff: { added: {}, changed: {}, removed: { [name]: pageRecord(before) } },
    });
    expect(removed.status).toBe(200);
    expect((await packNow()).pages.some((p) => p.key === "revenue")).toBe(false);
    expect((await one.get(`${PACK}/pages/revenue/panels/late`)).body).toMatchObject({
      detail: expect.stringContaining('has no page "revenue"') as string,
    });
    expect((await undo((removed.body as PackChanged).change!)).status).toBe(200);
    expect((await packNow()).pages.find((p) => p.key === "revenue")).toEqual(before);
  });
  it("who save the same KPI: the second is told", async () => {
    const fuel = ((await one.get("/api/kpis")).body as LibraryKpi[]).find((k) => k.definition.key === "fuel")!;
    const save = (api: ApiClient, change: Partial<KpiDefinition>) =>
      api.send("POST", "/api/kpis", {
        key: "fuel",
        definition: { ...fuel.definition, ...change },
        version: fuel.version,
      });
    expect((await save(one, { decimals: 2 })).status).toBe(200);
    const refused = await save(other, { owner: "Somebody else" });
    expect([refused.status, (refused.body as { code: string }).code]).toEqual([409, "changed-meanwhile"]);
  });
});

describe("the history of a page", () => {
  it("takes back the last change of a panel, not one that another stands on, and makes it again", async () => {
    const first = (await titled(one, await panelNow("scorecard"), "First")).body.change!;
    const second = (await titled(one, await panelNow("scorecard"), "Second")).body.change!;
    await change(other, await panelNow("scorecard"), { subtitle: "Meanwhile" });
    expect((await undo(first)).status).toBe(409);
    const back = await undo(second);
    expect((await panelNow("scorecard")).definition).toMatchObject({ title: "First", subtitle: "Meanwhile" });
    expect((await undo(second)).status).toBe(422);
    expect((await undo((back.body as PackChanged).change!)).status).toBe(200);
    expect(await titleNow("scorecard")).toBe("Second");
    const [latest, ...earlier] = (await one.get(`${COVER}/changes`)).body as Change[];
    expect(latest).toMatchObject({ said: "Arranged “Second”", mayUndo: true });
    expect(earlier.find((c) => c.id === second)).toMatchObject({ isUndone: true, mayUndo: false });
  });
  it("puts a page back to as it was, whoever changed it since, and forward again", async () => {
    const start = (await titled(one, await panelNow("scorecard"), "The start")).body.change!;
    const atStart = await panelsOf();
    await change(other, await panelNow("scorecard"), { title: "Later", subtitle: "Much later" });
    await one.putOn(`${COVER}/panels`, { key: "extra", kind: "time-chart", kpi: "fuel" });
    await change(other, await panelNow("over-time"), null);
    const atEnd = await panelsOf();
    const restored = await one.send("POST", `${COVER}/restore`, { change: start });
    expect(restored.status).toBe(200);
    expect(await panelsOf()).toEqual(atStart);
    const [said] = (await one.get(`${COVER}/changes`)).body as Change[];
    expect(said!.said).toMatch(/^Put Cover back to as it was on \d{4}-\d\d-\d\d at \d\d:\d\d UTC$/);
    expect((await undo((restored.body as PackChanged).change!)).status).toBe(200);
    expect(await panelsOf()).toEqual(atEnd);
    expect((await one.send("POST", `${COVER}/restore`, { change: 1_000_000 })).status).toBe(404);
    expect((await one.send("POST", `${PACK}/pages/routes/restore`, { change: start })).status).toBe(404);
    await one.send("POST", `${COVER}/restore`, { change: start });
  });
  it("takes back nothing but pages' changes, and for editors only", async () => {
    const [kpiChange] = (await one.get("/api/kpis/fuel/history")).body as Change[];
    expect((await undo(kpiChange!.id)).status).toBe(404);
    const [pageChange] = (await one.get(`${COVER}/changes`)).body as Change[];
    expect((await undo(pageChange!.id, "/api/kpis/changes")).status).toBe(404);
    await other.signIn(SKERRY_MANAGER);
    expect((await other.send("POST", `${PACK}/changes/${pageChange!.id}/undo`)).status).toBe(403);
  });
});

describe("what is stored and cannot be read", () => {
  const store = (key: string, definition: object) =>
    database.knex("panel").where({ pack: "monthly-review", page: "cover", key }).update({ definition });
  it.each([
    ["a kind that is not known", { kind: "cloud", title: "Cloud" }, 'of the kind "cloud"'],
    ["a later form", { kind: "scorecard", form: 99 }, "a later version of Hackle"],
    ["no definition of its kind", { key: "scorecard", kind: "scorecard", form: 1, groups: 7 }, 'at "groups"'],
  ])("a panel of %s keeps its place and says why; the others are read", async (_what, definition, reason) => {
    const before = (await panelsOf()).map((p) => p.key);
    await store("scorecard", definition);
    const panels = await panelsOf();
    expect(panels.map((p) => p.key)).toEqual(before);
    expect(panels.find((p) => p.key === "scorecard")!.definition).toMatchObject({
      kind: "unreadable",
      reason: expect.stringContaining(reason) as string,
    });
    expect((await one.get(`${COVER}/panels/over-time`)).status).toBe(200);
    const { status, body } = await one.get(`${COVER}/panels/scorecard`);
    expect(status).toBeGreaterThanOrEqual(400);
    expect((body as { detail: string }).detail).toContain(reason);
  });
  it("a KPI is named with its problem; the library and the page are read", async () => {
    await database
      .knex("kpi")
      .where({ key: "freight" })
      .update({ definition: { formula: 7 } });
    await database.knex("data_version").increment("version", 1);
    const library = await one.get("/api/kpis");
    expect(library.status).toBe(200);
    expect((library.body as LibraryKpi[]).find((k) => k.definition.key === "freight")?.problem?.message).toContain(
      "cannot be read",
    );
    expect((await one.get(`${COVER}/panels/over-time`)).status).toBe(200);
  });
});
