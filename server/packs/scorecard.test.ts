import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Figure } from "#core/figures/schema.ts";
import type { Pack } from "#contract/pack.ts";
import type { AnswerOf, DetailOf } from "#core/panels/schemas.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { SCORECARD_COLUMNS } from "#core/panels/scorecard/schema.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "scorecard");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const PANEL = "/api/packs/monthly-review/pages/cover/panels/scorecard";
const get = async <T>(path: string) => (await api.get(path)).body as T;
const value = (figure: Figure | null | undefined) => {
  if (!figure || !("value" in figure)) throw new Error(JSON.stringify(figure));
  return figure.value;
};
const cents = (figure: Figure | null | undefined) => Math.round(value(figure) * 100);
const panelNow = async () => {
  const pack = await get<Pack>("/api/packs/monthly-review");
  const panel = pack.pages[0]!.panels.find(({ key }) => key === "scorecard")!.definition;
  if (panel.kind !== "scorecard") throw new Error("not a scorecard");
  return panel;
};

describe("an arrangement", () => {
  it("decides what is calculated and in which order, and is kept", async () => {
    const panel = await panelNow();
    const next = { ...panel, columns: [...SCORECARD_COLUMNS].reverse(), groups: [...panel.groups].reverse() };
    expect((await api.arrange(PANEL, next)).status).toBe(200);
    const answer = await get<AnswerOf<"scorecard">>(`${PANEL}?span=month`);
    expect(answer.columns[0]).toBe("words");
    expect(answer.groups[0]!.title).toBe("Cash");
    const revenue = answer.groups.flatMap((g) => g.rows).find((r) => r.kpi.key === "total_revenue")!;
    // Month beside to date, and the year as it is expected to end.
    const toDate = await get<AnswerOf<"scorecard">>(`${PANEL}?span=year-to-date`);
    const whole = toDate.groups.flatMap((g) => g.rows).find((r) => r.kpi.key === "total_revenue")!;
    expect(revenue.toDate?.actual).toEqual(whole.actual);
    expect(revenue.outlook?.note).toBe("7 closed months, then Forecast 6+6.");
    const rest = await database.knex.raw<{ rows: [{ sum: string }] }>(
      `select sum(amount) from fact join account on account.id = account_id join scenario on scenario.id = scenario_id
       where scenario.key = 'forecast-6-6' and month > ? and account.kind = 'income'`,
      [2026 * 12 + 9],
    );
    expect(cents(revenue.outlook?.actual)).toBe(cents(whole.actual) + Number(rest.rows[0].sum));
    expect(revenue.trend).toHaveLength(24);
    expect((await api.arrange(PANEL, panel)).status).toBe(200);
    const plain = (await get<AnswerOf<"scorecard">>(PANEL)).groups[0]!.rows[0]!;
    expect([plain.outlook, plain.toDate]).toEqual([null, null]);
  });
  it("is refused where it names what is not there, and to those who may not edit", async () => {
    const panel = await panelNow();
    const wrong = { ...panel, groups: [{ title: "Result", kpis: ["total_revenu"] }] };
    expect((await api.arrange(PANEL, wrong)).body).toMatchObject({ code: "unknown-kpi" });
    expect((await api.arrange(PANEL, { ...panel, key: "other" })).status).toBe(422);
    expect((await api.arrange(PANEL, { ...panel, expandBy: "moon" })).status).toBe(422);
    expect((await api.arrange(PANEL, { ...panel, columns: ["nonsense"] })).status).toBe(400);
    await api.signIn(SKERRY_MANAGER);
    expect((await api.arrange(PANEL, panel)).status).toBe(403);
    await api.signIn(ANALYST);
  });
});

describe("a row opened by members", () => {
  it("sums to the row above, level by level, Δ too", async () => {
    const answer = await get<AnswerOf<"scorecard">>(PANEL);
    expect(answer.expandBy).toMatchObject({ key: "route" });
    const total = answer.groups[0]!.rows.find((r) => r.kpi.key === "total_revenue")!;
    const areas = await get<DetailOf<"scorecard">>(`${PANEL}/detail?kpi=total_revenue`);
    expect(areas.rows.map((r) => [r.member.name, r.member.hasBelow])).toEqual([
      ["Skerry Sound", true],
      ["Lantern Bay", true],
      ["Northreach", true],
    ]);
    const sum = (
      rows: DetailOf<"scorecard">["rows"],
      pick: (r: DetailOf<"scorecard">["rows"][number]["row"]) => Figure | null,
    ) => rows.reduce((s, r) => s + cents(pick(r.row)), 0);
    expect(sum(areas.rows, (r) => r.actual)).toBe(cents(total.actual));
    expect(sum(areas.rows, (r) => r.variance.delta)).toBe(cents(total.variance.delta));
    const routes = await get<DetailOf<"scorecard">>(`${PANEL}/detail?kpi=total_revenue&parent=skerry-sound`);
    expect(sum(routes.rows, (r) => r.actual)).toBe(cents(areas.rows[0]!.row.actual));
  });
  it("stays inside page scope and access, and refuses what is not there", async () => {
    const narrowed = await get<DetailOf<"scorecard">>(`${PANEL}/detail?kpi=total_revenue&scope=route:northreach`);
    expect(narrowed.rows.map((r) => r.member.name)).toEqual(["Northreach"]);
    expect((await api.get(`${PANEL}/detail?kpi=total_revenue&parent=moon`)).status).toBe(422);
    expect((await api.get(`${PANEL}/detail?kpi=moon`)).status).toBe(422);
    expect((await api.get("/api/packs/monthly-review/pages/cover/panels/over-time/detail?kpi=fuel")).status).toBe(400);
    await api.signIn(SKERRY_MANAGER);
    expect(
      (await get<DetailOf<"scorecard">>(`${PANEL}/detail?kpi=total_revenue`)).rows.map((r) => r.member.name),
    ).toEqual(["Skerry Sound"]);
    expect((await api.get(`${PANEL}/detail?kpi=total_revenue&parent=northreach`)).status).toBe(422);
    await api.signIn(ANALYST);
  });
});

describe("the numbers behind a panel", () => {
  it("come as CSV at an address that stays, numbers in full, and a token opens it without signing in", async () => {
    const file = await api.get(`${PANEL}.csv?span=month`);
    expect(file.status).toBe(200);
    const lines = (file.body as string).replace("\ufeff", "").trim().split("\r\n");
    const answer = await get<AnswerOf<"scorecard">>(`${PANEL}?span=month`);
    const revenue = answer.groups[0]!.rows[0]!;
    expect(lines[0]).toContain("Group,KPI,Unit,Period,Scope,Actual,Basis name,Basis");
    expect(lines[1]).toContain(
      `Result,Revenue,€,"month, October FY27",all routes,${value(revenue.actual)},Budget,${value(revenue.basis)}`,
    );
    expect(lines).toHaveLength(1 + answer.groups.flatMap((g) => g.rows).length);
    const chart = (await api.get("/api/packs/monthly-review/pages/cover/panels/over-time.csv?kpi=fuel")).body as string;
    expect(chart).toContain("Fuel,€,October FY27,2026-10");

    const { token } = (await api.send("POST", "/api/tokens", { name: "board slides" })).body as { token: string };
    const withToken = (path: string, init: RequestInit = {}) =>
      fetch(api.origin + path, { ...init, headers: { authorization: `Bearer ${token}` } });
    const read = await withToken(`${PANEL}.csv?span=month`);
    expect([read.status, await read.text()]).toEqual([200, (file.body as string).replace("\ufeff", "")]);
    expect((await withToken("/api/kpis/total_revenue", { method: "DELETE" })).status).toBe(403);
    const listed = await get<{ id: number; name: string; lastUsedAt: string | null }[]>("/api/tokens");
    expect(listed).toMatchObject([{ name: "board slides", lastUsedAt: expect.any(String) as string }]);
    expect(JSON.stringify(listed)).not.toContain(token);
    expect((await api.send("DELETE", `/api/tokens/${listed[0]!.id}`)).status).toBe(204);
    expect((await withToken(PANEL)).status).toBe(401);
    expect((await fetch(api.origin + PANEL)).status).toBe(401);
  });
  it("are the token's person's own: access holds", async () => {
    await api.signIn(SKERRY_MANAGER);
    const { token } = (await api.send("POST", "/api/tokens", { name: "area" })).body as { token: string };
    await api.signIn(ANALYST);
    const read = await fetch(`${api.origin}${PANEL}`, { headers: { authorization: `Bearer ${token}` } });
    const own = ((await read.json()) as AnswerOf<"scorecard">).groups[0]!.rows[0]!;
    const skerry = await get<AnswerOf<"scorecard">>(`${PANEL}?scope=route:skerry-sound`);
    expect(own.actual).toEqual(skerry.groups[0]!.rows[0]!.actual);
    // Nobody revokes another's token.
    const [{ id }] = (await database.knex("api_token").select("id")) as [{ id: number }];
    expect((await api.send("DELETE", `/api/tokens/${id}`)).status).toBe(404);
  });
});
