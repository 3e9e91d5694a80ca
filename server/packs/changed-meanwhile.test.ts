import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { KpiDefinition } from "#core/kpis/kpi.ts";
import type { Change } from "#contract/changes.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { Pack, PackChanged, PlacedPanel } from "#contract/pack.ts";
import { ANALYST, SKERRY_MANAGER, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

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

const panelsOf = async (page = "cover"): Promise<readonly PlacedPanel[]> =>
  ((await one.get(PACK)).body as Pack).pages.find((p) => p.key === page)!.panels;
const panelNow = async (key: string) => (await panelsOf()).find((p) => p.key === key)!;
const titled = async (api: ApiClient, { version, ...panel }: PlacedPanel, title: string) => {
  const { status, body } = await api.send("PUT", `${COVER}/panels/${panel.key}`, {
    panel: { ...panel, title },
    version,
  });
  return { status, body: body as PackChanged & { detail: string; both: Record<"current" | "yours", PlacedPanel> } };
};
const undo = (change: number, path = `${PACK}/changes`) => one.send("POST", `${path}/${change}/undo`);

describe("two people with one page open", () => {
  it("who arrange the same panel: the second keeps both versions, and nothing is lost", async () => {
    const seen = await panelNow("scorecard");
    expect((await titled(one, seen, "Mine")).status).toBe(200);
    const refused = await titled(other, seen, "Theirs");
    expect(refused.status).toBe(409);
    expect(refused.body.both.current.title).toBe("Mine");
    expect(refused.body.both.yours.title).toBe("Theirs");
    expect((await panelNow("scorecard")).title).toBe("Mine");
    // On top of what is there now it goes through.
    expect((await titled(other, await panelNow("scorecard"), "Theirs")).status).toBe(200);
    expect((await panelNow("scorecard")).title).toBe("Theirs");
  });
  it("who arrange different panels both get what they wanted", async () => {
    const [scorecard, chart] = [await panelNow("scorecard"), await panelNow("over-time")];
    const answers = await Promise.all([titled(one, scorecard, "A scorecard"), titled(other, chart, "A chart")]);
    expect(answers.map((a) => a.status)).toEqual([200, 200]);
    expect([(await panelNow("scorecard")).title, (await panelNow("over-time")).title]).toEqual([
      "A scorecard",
      "A chart",
    ]);
  });
  it("and one takes off what the other arranged: told, and still there", async () => {
    const seen = await panelNow("over-time");
    await titled(one, seen, "Still read");
    expect((await other.send("DELETE", `${COVER}/panels/over-time?version=${seen.version}`)).status).toBe(409);
    expect((await panelNow("over-time")).title).toBe("Still read");
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
    expect((await undo(first)).status).toBe(409);
    const back = await undo(second);
    expect((await panelNow("scorecard")).title).toBe("First");
    expect((await undo(second)).status).toBe(422);
    expect((await undo((back.body as PackChanged).change!)).status).toBe(200);
    expect((await panelNow("scorecard")).title).toBe("Second");
    const [latest, ...earlier] = (await one.get(`${COVER}/changes`)).body as Change[];
    expect(latest).toMatchObject({ said: "Arranged “Second”", mayUndo: true });
    expect(earlier.find((c) => c.id === second)).toMatchObject({ isUndone: true, mayUndo: false });
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
    expect(panels.find((p) => p.key === "scorecard")).toMatchObject({
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
