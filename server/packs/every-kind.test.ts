import fc from "fast-check";
import papa from "papaparse";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { PANEL_COMPUTATIONS } from "#core/panels/index.ts";
import { PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import { isReadable, type Pack } from "#contract/pack.ts";
import { PANEL_SCHEMAS, referencesOf, type PanelAnswer, type PanelDefinition } from "#core/panels/schemas.ts";
import { readStoredPanel, storePanel } from "#contract/stored-panel.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { viewOf } from "../../web/panels/index.ts";

/** What holds for panels of every kind there is: a new one is tested without a line here. */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "every_kind");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const PANELS = "/api/packs/monthly-review/pages/revenue/panels";
const KPIS = ["total_revenue", "fuel", "load_factor"];
const DIMENSIONS = [{ key: "route", name: "Route", plural: "routes", levels: ["Sea area", "Route"], members: [] }];
const newPanel = (kind: PanelKind, key = `a-${kind}`): PanelDefinition =>
  viewOf(kind).create({ key, kpis: KPIS, otherKpis: [], dimensions: DIMENSIONS });
const tableOf = (answer: PanelAnswer): PanelTable =>
  inWriting(WRITING, () =>
    (PANEL_COMPUTATIONS[answer.kind] as { table(answer: PanelAnswer): PanelTable }).table(answer),
  );
const answerOf = async (key: string, query = "") => {
  const { status, body } = await api.get(`${PANELS}/${key}?${query}`);
  expect([key, query, status]).toEqual([key, query, 200]);
  return body as PanelAnswer;
};
const csvOf = async (key: string, query = "") => {
  const { body } = await api.get(`${PANELS}/${key}.csv?${query}`);
  return papa.parse<string[]>((body as string).replace("\ufeff", "").trim()).data;
};
const pageNow = async () =>
  ((await api.get("/api/packs/monthly-review")).body as Pack).pages.find((page) => page.key === "revenue")!;

describe.each(PANEL_KINDS)("a panel of the kind %s", (kind) => {
  const panel = newPanel(kind);
  const { key } = panel;

  it("is made, put on a page, shown and taken off again", async () => {
    expect((await api.putOn(PANELS, panel)).status).toBe(200);
    expect((await pageNow()).panels.at(-1)!.definition).toMatchObject(panel);
    const answer = await answerOf(key);
    expect(answer.kind).toBe(kind);
    expect(PANEL_SCHEMAS[kind].answer.safeParse(answer).error).toBeUndefined();
    expect((await api.takeOff(`${PANELS}/${key}`)).status).toBe(200);
    expect((await pageNow()).panels.some((p) => p.key === key)).toBe(false);
    expect((await api.putOn(PANELS, panel)).status).toBe(200);
  });
  it("may stand on a page any number of times, each with its own definition", async () => {
    const twin = { ...newPanel(kind, `${key}-2`), title: "Another" };
    expect((await api.putOn(PANELS, twin, { x: 0, y: 0, w: 24, h: 30 })).status).toBe(200);
    const { panels } = await pageNow();
    expect([panels[0]!.key, panels.at(-1)!.key]).toEqual([twin.key, key]);
    expect((await answerOf(twin.key)).kind).toBe(kind);
    expect((await api.putOn(PANELS, { ...twin, title: "A third" })).status).toBe(200);
    await api.takeOff(`${PANELS}/${twin.key}`);
  });
  it("has one table, from which the file is made to the last digit", async () => {
    const answer = await answerOf(key);
    const { columns, rows } = tableOf(answer);
    const [heads, ...lines] = await csvOf(key);
    expect(heads).toEqual(columns.map((column) => column.head));
    expect(lines.length).toBe(rows.length);
    expect(rows.length).toBeGreaterThan(0);
    for (const [r, row] of rows.entries())
      for (const [c, cell] of row.entries())
        if (typeof cell === "number") expect([heads![c], Number(lines[r]![c])]).toEqual([heads![c], cell]);
        else if (cell === null) expect(lines[r]![c]).toBe("");
    expect(rows.flat().some((cell) => typeof cell === "number")).toBe(true);
  });
  it("answers in any frame, also where nothing is there", async () => {
    for (const query of [
      "asOf=2023-03&span=year-to-date",
      "asOf=2026-11&span=month-to-date",
      "asOf=2023-04&span=month&basis=prior-year",
      "scope=route:",
      "scope=route:northreach;vessel:gannet&basis=target",
      "span=trailing-12&basis=forecast&unit=million",
    ]) {
      const answer = await answerOf(key, query);
      // Not a number is no figure, on the wire or in a file.
      expect(JSON.stringify(answer)).not.toMatch(/NaN|Infinity|undefined/);
      expect(tableOf(answer).columns.length).toBeGreaterThan(2);
    }
  });
  it("shows a reader nothing but their own rows", async () => {
    const scoped = tableOf(await answerOf(key, "scope=route:skerry-sound"));
    await api.signIn(SKERRY_MANAGER);
    const own = tableOf(await answerOf(key));
    const file = await csvOf(key, "scope=route:northreach");
    await api.signIn(ANALYST);
    const numbers = ({ rows }: PanelTable) => rows.map((row) => row.filter((cell) => typeof cell === "number"));
    expect(numbers(own)).toEqual(numbers(scoped));
    // What was asked for outside of them is absent in every row: no amount, with or without cents.
    expect(
      file
        .slice(1)
        .flat()
        .filter((cell) => /^-?\d{4,}(\.\d+)?$/.test(cell)),
    ).toEqual([]);
  });
  it("names what it refers to, and is refused where that is not there", async () => {
    expect(referencesOf(panel).kpis.length).toBeGreaterThan(0);
    const wrong = JSON.parse(JSON.stringify(panel).replaceAll("total_revenue", "total_revenu")) as PanelDefinition;
    const { status, body } = await api.arrange(`${PANELS}/${key}`, wrong);
    expect([status, (body as { code: string }).code]).toEqual([422, "unknown-kpi"]);
    const own = { ...(await libraryKpi("fuel")), key: "own_fuel", name: "Own fuel" };
    expect((await api.send("POST", "/api/kpis", { key: null, version: null, definition: own })).status).toBe(200);
    const using = viewOf(kind).create({
      key,
      kpis: ["own_fuel"],
      otherKpis: ["total_revenue"],
      dimensions: DIMENSIONS,
    });
    expect((await api.arrange(`${PANELS}/${key}`, using)).status).toBe(200);
    expect((await api.send("DELETE", "/api/kpis/own_fuel")).body).toMatchObject({ code: "in-use" });
    expect((await api.arrange(`${PANELS}/${key}`, panel)).status).toBe(200);
    expect((await api.send("DELETE", "/api/kpis/own_fuel")).status).toBe(200);
  });
  it("is read back as it was stored, by this version and later ones, and never breaks its page", () => {
    const stored = storePanel(panel);
    expect(readStoredPanel(stored, key)).toEqual(panel);
    expect(PANEL_SCHEMAS[kind].migrations.length).toBe(PANEL_SCHEMAS[kind].form - 1);
    expect(readStoredPanel({ ...stored, form: PANEL_SCHEMAS[kind].form + 1 }, key)).toMatchObject({
      kind: "unreadable",
      reason: expect.stringContaining("later version") as string,
    });
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(panel)), fc.jsonValue(), (part, value) => {
        const read = readStoredPanel({ ...stored, [part]: value }, key);
        if (isReadable(read)) expect(PANEL_SCHEMAS[read.kind].definition.safeParse(read).success).toBe(true);
        else expect(read.reason).not.toBe("");
      }),
    );
  });
});

const libraryKpi = async (key: string) =>
  ((await api.get("/api/kpis")).body as { definition: { key: string } }[]).find((k) => k.definition.key === key)!
    .definition;

describe("what is hidden on screen", () => {
  it("is hidden in the copy and in the file: series of a chart", async () => {
    const chart = { ...newPanel("time-chart", "hides"), hides: ["budget", "prior-year"] } as PanelDefinition;
    expect((await api.putOn(PANELS, chart)).status).toBe(200);
    const shown = tableOf(await answerOf("hides", "basis=forecast")).columns.map((c) => c.head);
    const [heads] = await csvOf("hides", "basis=forecast");
    expect(heads).toEqual(shown);
    expect(heads).toContain("Actual");
    expect(heads).not.toContain("Budget");
    expect(heads).not.toContain("Prior year");
    const [all] = await csvOf("a-time-chart", "basis=forecast");
    expect(all).toEqual(expect.arrayContaining(["Budget", "Prior year"]));
  });
  it("is hidden in the copy and in the file: columns of a scorecard", async () => {
    const slim = { ...newPanel("scorecard", "slim"), columns: ["actual", "status"] } as PanelDefinition;
    expect((await api.putOn(PANELS, slim)).status).toBe(200);
    const [heads] = await csvOf("slim");
    expect(heads).toContain("Actual");
    for (const head of ["Basis", "Variance", "Variance of basis", "Tolerances", "Prior year"])
      expect(heads).not.toContain(head);
  });
});

describe("a change of another pack", () => {
  it("is not taken back through this one", async () => {
    const { body } = await api.arrange(`${PANELS}/a-tiles`, { ...newPanel("tiles"), title: "Changed" });
    const { change } = body as { change: number };
    const elsewhere = await api.send("POST", `/api/packs/nowhere/changes/${change}/undo`, {});
    expect(elsewhere.status).toBe(404);
    expect((await pageNow()).panels.find((p) => p.key === "a-tiles")!.definition).toMatchObject({ title: "Changed" });
  });
});
