import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { FormulaTried, KpiHistory, Language, LibraryKpi } from "#contract/kpis.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "kpis");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const YIELD: KpiDefinition = {
  key: "ticket_yield",
  name: "Ticket yield",
  formula: "ticket_revenue / passengers",
  unit: { kind: "money-per", per: "passenger" },
  decimals: 2,
  direction: "higher",
  tolerance: { kind: "percent", percent: 1 },
  owner: "Maren Holt",
  description: "Ticket revenue by passenger.",
  status: null,
  fallbackBasis: null,
};
const save = async (definition: KpiDefinition, key: string | null = definition.key) => {
  const version = (await library()).find((k) => k.definition.key === key)?.version ?? null;
  const { status, body } = await api.send("POST", "/api/kpis", { key, definition, version });
  return { status, detail: (body as { detail?: string }).detail ?? "", library: body as LibraryKpi[] };
};
const library = async () => (await api.get("/api/kpis")).body as LibraryKpi[];
const attempt = async (formula: string, self: string | null = null, query = {}) =>
  (await api.send("POST", "/api/formula/try", { formula, self, ...query })).body as FormulaTried;

describe("the library", () => {
  it("knows what each KPI reads, and where it is used", async () => {
    const margin = (await library()).find((k) => k.definition.key === "operating_margin")!;
    expect(margin.reads).toEqual([
      { key: "operating_result", name: "Operating result", kind: "kpi" },
      { key: "total_revenue", name: "Revenue", kind: "kpi" },
    ]);
    expect(margin.pages.map((p) => p.name)).toEqual(["Cover", "At a glance", "Costs and fuel"]);
    const revenue = (await library()).find((k) => k.definition.key === "total_revenue")!;
    expect(revenue.usedBy.map((k) => k.key)).toContain("operating_margin");
  });

  it("takes a new KPI, remembers its changes, takes the last one back, and lets it go when nothing uses it", async () => {
    const added = await save(YIELD, null);
    expect(added.status).toBe(200);
    expect(added.library.find((k) => k.definition.key === YIELD.key)?.problem).toBeNull();
    expect((await save({ ...YIELD, formula: "ticket_revenue@budget / passengers@budget" })).status).toBe(200);
    expect((await save({ ...YIELD, formula: "ticket_revenue@budget / passengers@budget", decimals: 1 })).status).toBe(
      200,
    );
    const history = (await api.get("/api/kpis/ticket_yield/history")).body as KpiHistory;
    expect(history.map((c) => c.said)).toEqual([
      "Changed decimals of Ticket yield",
      "Changed the formula of Ticket yield",
      "Added Ticket yield",
    ]);
    expect(history.map((c) => c.mayUndo)).toEqual([true, false, false]);
    expect((await api.send("POST", `/api/kpis/changes/${history[1]!.id}/undo`)).status).toBe(409);
    expect((await api.send("POST", `/api/kpis/changes/${history[0]!.id}/undo`)).status).toBe(200);
    expect((await library()).find((k) => k.definition.key === YIELD.key)?.definition.decimals).toBe(2);
    expect((await api.send("DELETE", "/api/kpis/ticket_yield")).status).toBe(200);
    expect((await library()).some((k) => k.definition.key === YIELD.key)).toBe(false);
  });

  it("refuses what would not hold, with the way out", async () => {
    expect((await save({ ...YIELD, key: "tickets" }, null)).detail).toContain('There is a KPI "tickets" already');
    expect((await save({ ...YIELD, key: "revenue" }, null)).detail).toContain('"revenue" is the account Revenue');
    expect((await save({ ...YIELD, formula: "ticket_revenu" }, null)).detail).toContain('Is "ticket_revenue" meant?');
    expect((await save({ ...YIELD, unit: { kind: "percent" } }, null)).detail).toContain("is declared as percent");
    const revenue = (await library()).find((k) => k.definition.key === "total_revenue")!.definition;
    expect((await save({ ...revenue, formula: "operating_margin * revenue" })).detail).toContain(
      "total_revenue → operating_margin → total_revenue",
    );
    expect(
      (await save({ ...revenue, formula: "passengers", unit: { kind: "count", of: "passengers" } })).detail,
    ).toContain("Operating margin would no longer be valid");
    expect((await api.send("DELETE", "/api/kpis/total_revenue")).body).toMatchObject({ code: "in-use" });
    const hole = {
      against: { kind: "value" as const },
      shownAs: "bands" as const,
      bands: [
        { from: null, to: 5, grade: "poor" as const, word: "low" },
        { from: 6, to: null, grade: "good" as const, word: "fine" },
      ],
    };
    expect((await save({ ...YIELD, status: hole }, null)).detail).toContain("Values between 5 and 6 have no band");
    expect((await api.send("POST", "/api/kpis", { key: null, definition: { ...YIELD, key: "No Key" } })).status).toBe(
      400,
    );
  });

  it("is read by all and changed by editors only", async () => {
    await api.signIn(SKERRY_MANAGER);
    expect((await api.get("/api/kpis")).status).toBe(200);
    expect((await save(YIELD, null)).status).toBe(403);
    await api.signIn(ANALYST);
  });
});

describe("a formula while it is typed", () => {
  it("gives its type, 24 months, this month and to date against budget", async () => {
    const tried = await attempt("operating_result/total_revenue");
    if ("problem" in tried) throw new Error(tried.problem.message);
    expect(tried).toMatchObject({
      type: "percent or ratio, calculated for each span from its totals",
      unit: { kind: "percent" },
      printed: "operating_result / total_revenue",
    });
    expect(tried.points).toHaveLength(24);
    expect(tried.points.at(-1)?.month).toBe("2026-10");
    expect(tried.figures.map((f) => [f.name, f.months])).toEqual([
      ["October FY27", "October FY27"],
      ["year to date", "April–October FY27"],
    ]);
    // The same figure as on the page.
    const { body } = await api.get("/api/packs/monthly-review/pages/cover/panels/scorecard");
    const row = (body as AnswerOf<"scorecard">).groups
      .flatMap((g) => g.rows)
      .find((r) => r.kpi.key === "operating_margin")!;
    expect(tried.figures[1]).toMatchObject({
      actual: row.actual,
      basis: row.basis,
      variance: { delta: row.variance.delta },
    });
  });
  it("says where it is wrong", async () => {
    expect(await attempt("total_revenue / pasengers")).toEqual({
      problem: { from: 16, to: 25, message: 'There is no account or KPI "pasengers". Is "passengers" meant?' },
    });
    expect(await attempt("tickets", "tickets")).toMatchObject({
      problem: { message: expect.stringContaining("itself") as string },
    });
    expect(await attempt("x".repeat(1_000_000))).toMatchObject({ problem: { from: 4000 } });
  });
  it("stays inside what the reader may see", async () => {
    const all = await attempt("ignoring(total_revenue, route)", null, { scope: "route:skerry-sound" });
    await api.signIn(SKERRY_MANAGER);
    const own = await attempt("ignoring(total_revenue, route)");
    const named = await attempt('only(total_revenue, route: "Northreach")');
    await api.signIn(ANALYST);
    const skerry = await attempt("total_revenue", null, { scope: "route:skerry-sound" });
    if ("problem" in all || "problem" in own || "problem" in named || "problem" in skerry) throw new Error("refused");
    expect(own.figures[1]!.actual).toEqual(skerry.figures[1]!.actual);
    expect(own.figures[1]!.actual).not.toEqual(all.figures[1]!.actual);
    expect(named.figures[1]!.actual).toMatchObject({ absent: "not covered" });
  });
});

describe("the language", () => {
  it("names all that completion offers, and every example runs on the sample company", async () => {
    const language = (await api.get("/api/formula/language")).body as Language;
    expect(language.functions.length).toBeGreaterThan(30);
    expect(language.dimensions.map((d) => d.name)).toContain("cost_centre");
    expect(language.scenarios).toContainEqual({ key: "forecast-6-6", name: "Forecast 6+6", written: '"forecast-6-6"' });
    expect(language.accounts.some((a) => a.key === "ticket_revenue")).toBe(true);
    for (const { name, example } of language.functions) {
      const tried = await attempt(example);
      expect("problem" in tried ? `${name}: ${tried.problem.message}` : "runs").toBe("runs");
      if ("problem" in tried) continue;
      const shown = [...tried.figures.map((f) => f.actual), ...tried.points.map((p) => p.actual)];
      expect([name, shown.some((figure) => "value" in figure)]).toEqual([name, true]);
    }
  });
});
