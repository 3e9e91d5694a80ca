import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Figure } from "#core/figures/schema.ts";
import type { Pack } from "#contract/pack.ts";
import type { AnswerOf, DefinitionOf, PanelDefinition } from "#core/panels/schemas.ts";
import type { ProvenanceAnswer } from "#contract/provenance.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "tiles");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const PAGE = "/api/packs/monthly-review/pages/routes";
const TILES = `${PAGE}/panels/tiles`;
const get = async <T>(path: string) => (await api.get(path)).body as T;
const tilesOf = (query = "") => get<AnswerOf<"tiles">>(`${TILES}?${query}`);
const value = (figure: Figure | null | undefined) => {
  if (!figure || !("value" in figure)) throw new Error(JSON.stringify(figure));
  return figure.value;
};
const cents = (figure: Figure | null | undefined) => Math.round(value(figure) * 100);
const sum = (
  tiles: readonly AnswerOf<"tiles">["tiles"][number][],
  pick: (tile: AnswerOf<"tiles">["tiles"][number]) => Figure,
) => tiles.reduce((total, tile) => total + cents(pick(tile)), 0);
const totalOf = async (kpi: string, query = "") => {
  const { groups } = await get<AnswerOf<"scorecard">>(
    `/api/packs/monthly-review/pages/cover/panels/scorecard?${query}`,
  );
  return groups.flatMap((g) => g.rows).find((row) => row.kpi.key === kpi)!;
};
const panelNow = async () => {
  const pack = await get<Pack>("/api/packs/monthly-review");
  return pack.pages.find((p) => p.key === "routes")!.panels[0]!.definition as DefinitionOf<"tiles">;
};

describe("tiles repeated by members", () => {
  it("have the total in parts: large figures, Δ and small figures add up", async () => {
    const { tiles, figures, repeatedBy } = await tilesOf();
    const total = await totalOf("total_revenue");
    expect(repeatedBy).toEqual({ dimension: "route", level: "route", path: [] });
    expect(tiles).toHaveLength(9);
    expect(sum(tiles, (t) => t.row.actual)).toBe(cents(total.actual));
    expect(sum(tiles, (t) => t.row.variance.delta)).toBe(cents(total.variance.delta));
    // The span is the year to date: as a small figure it would say the same again.
    expect(figures.map((f) => f.kind)).toEqual(["month", "prior-year", "run-rate-year"]);
    const month = await totalOf("total_revenue", "span=month");
    expect(sum(tiles, (t) => t.figures[0]!.figure)).toBe(cents(month.actual));
  });
  it("gather those that do not stand apart in one, a rate as the rate of them all", async () => {
    const top = await tilesOf("top=4");
    expect(top.tiles).toHaveLength(4);
    expect(top.others?.count).toBe(5);
    const total = await totalOf("total_revenue");
    expect(sum([...top.tiles, top.others!.tile], (t) => t.row.actual)).toBe(cents(total.actual));
    const rates = await tilesOf("top=4&kpi=on_time_rate&order=value");
    const rest = (await tilesOf("kpi=on_time_rate&order=value")).tiles.slice(4);
    const scope = formatScope({ route: rest.map((t) => t.member!.key) });
    expect(rates.others!.tile.row.actual).toEqual((await totalOf("on_time_rate", `scope=${scope}`)).actual);
  });
  it("stand in the order asked for, best or worst first whichever way the KPI points", async () => {
    const shares = async (query: string) => (await tilesOf(query)).tiles.map((t) => value(t.row.attainment));
    const rising = (list: number[]) => list.every((x, i) => i === 0 || list[i - 1]! <= x);
    expect(rising(await shares("order=attainment&reversed=yes"))).toBe(true);
    // Less fuel than budgeted is better: the worst is the one with the most.
    expect(rising((await shares("kpi=fuel&order=attainment&reversed=yes")).toReversed())).toBe(true);
    expect(rising(await shares("kpi=fuel&order=attainment&reversed=no"))).toBe(true);
    const values = (await tilesOf("order=value&reversed=no")).tiles.map((t) => value(t.row.actual));
    expect(rising(values.toReversed())).toBe(true);
  });
  it("open downwards, and stay inside page scope and access", async () => {
    const panel = await panelNow();
    const areas: DefinitionOf<"tiles"> = { ...panel, repeatBy: { dimension: "route", level: null } };
    expect((await api.arrange(TILES, areas)).status).toBe(200);
    const top = await tilesOf("order=set&reversed=no");
    expect(top.tiles.map((t) => [t.member!.name, t.member!.hasBelow])).toEqual([
      ["Skerry Sound", true],
      ["Lantern Bay", true],
      ["Northreach", true],
    ]);
    expect(top.repeatedBy?.level).toBe("sea area");
    const below = await tilesOf("order=set&reversed=no&below=lantern-bay");
    expect(below.repeatedBy).toMatchObject({ level: "route", path: [{ key: "lantern-bay", name: "Lantern Bay" }] });
    expect(sum(below.tiles, (t) => t.row.actual)).toBe(cents(top.tiles[1]!.row.actual));
    expect((await api.get(`${TILES}?below=moon`)).body).toMatchObject({ code: "unknown-scope" });
    expect((await tilesOf("scope=route:northreach")).tiles.map((t) => t.member!.name)).toEqual(["Northreach"]);
    expect((await api.arrange(TILES, panel)).status).toBe(200);
    await api.signIn(SKERRY_MANAGER);
    const own = await tilesOf();
    expect(own.tiles.length).toBe(3);
    expect(own.tiles.every((t) => "value" in t.row.actual)).toBe(true);
    await api.signIn(ANALYST);
  });
  it("lead to where each figure comes from, in the member's own scope", async () => {
    const { tiles } = await tilesOf();
    const { member, row } = tiles[0]!;
    const scope = formatScope(member!.scope);
    const origin = await get<ProvenanceAnswer>(`/api/provenance?kpi=total_revenue&side=actual&scope=${scope}`);
    expect(origin.figure).toEqual(row.actual);
  });
});

describe("tiles of several KPIs", () => {
  it("are the scorecard's own figures, with a message and small figures", async () => {
    const answer = await get<AnswerOf<"tiles">>("/api/packs/monthly-review/pages/at-a-glance/panels/tiles");
    const cover = await get<AnswerOf<"scorecard">>("/api/packs/monthly-review/pages/cover/panels/scorecard");
    const rows = new Map(cover.groups.flatMap((g) => g.rows).map((row) => [row.kpi.key, row]));
    expect(answer.layers).toEqual([]);
    expect(answer.message).toContain("Revenue is");
    let seen = 0;
    for (const { row } of answer.tiles) {
      const own = rows.get(row.kpi.key);
      if (!own) continue;
      seen += 1;
      expect([row.actual, row.variance, row.status]).toEqual([own.actual, own.variance, own.status]);
    }
    expect(seen).toBeGreaterThan(6);
  });
  it("count days on daily data: November to the 17th, October to the 17th, the month at this pace", async () => {
    const panel = await panelNow();
    const figures = ["month-to-date", "same-day", "run-rate-month"] as const;
    await api.arrange(TILES, { ...panel, kpis: ["carried"], figures, repeatBy: null });
    const { tiles, figures: heads } = await tilesOf("asOf=2026-11&span=year-to-date");
    expect(heads.map((f) => f.name)).toEqual(["1–17 November", "1–17 October", "Run rate, November"]);
    const days = async (month: number) => {
      const { rows } = await database.knex.raw<{ rows: { sum: string }[] }>(
        `select sum(amount) from fact join account on account.id = account_id join scenario on scenario.id = scenario_id
         where scenario.key = 'actual' and account.key = 'passengers_carried' and month = ? and day <= 17`,
        [month],
      );
      return Number(rows[0]!.sum);
    };
    const november = 2026 * 12 + 10;
    const [toDate, before, pace] = tiles[0]!.figures;
    expect(value(toDate!.figure)).toBe(await days(november));
    expect(value(before!.figure)).toBe(await days(november - 1));
    expect(value(before!.variance.delta)).toBe((await days(november)) - (await days(november - 1)));
    expect(pace!.note).toContain("season of the last 2 years");
    await api.arrange(TILES, panel);
  });
  it("come as a table of numbers, the others too", async () => {
    const file = await api.get(`${TILES}.csv?top=2`);
    const lines = (file.body as string).replace("\ufeff", "").trim().split("\r\n");
    expect(lines).toHaveLength(4);
    expect(lines[0]).toContain("Share of basis reached");
    expect(lines[3]).toContain("The other 7");
  });
});

describe("a second KPI beside each tile's own", () => {
  it("is the same figure that a tile of its own has, member by member, and a column of the numbers", async () => {
    const now = await panelNow();
    const second = now.kpis[1]!;
    const panel = { ...now, key: "with-second", second };
    expect((await api.putOn(`${PAGE}/panels`, panel)).status).toBe(200);
    const both = await get<AnswerOf<"tiles">>(`${PAGE}/panels/with-second`);
    const own = await tilesOf(`kpi=${second}`);
    expect(both.tiles.length).toBeGreaterThan(5);
    for (const { member, second: beside } of both.tiles) {
      const { row } = own.tiles.find((tile) => tile.member!.key === member!.key)!;
      expect(beside).toEqual({
        kpi: row.kpi,
        actual: row.actual,
        basisName: row.basisName,
        variance: row.variance,
        words: row.words,
      });
    }
    const { body } = await api.get(`${PAGE}/panels/with-second.csv`);
    expect((body as string).split("\n")[0]).toContain(`Variance of ${own.tiles[0]!.row.kpi.name}`);
    // Of itself it is not said twice.
    const same = await get<AnswerOf<"tiles">>(`${PAGE}/panels/with-second?kpi=${second}`);
    expect(same.tiles.map((tile) => tile.second)).toEqual(same.tiles.map(() => null));
    expect((await api.putOn(`${PAGE}/panels`, { ...panel, key: "b", second: "moon" })).body).toMatchObject({
      code: "unknown-kpi",
    });
    await api.takeOff(`${PAGE}/panels/with-second`);
  });
});

describe("panels of a page", () => {
  it("are added and taken off, and refused where they name what is not there", async () => {
    const panel: DefinitionOf<"tiles"> = { ...(await panelNow()), key: "tiles-2" };
    const added = await api.putOn(`${PAGE}/panels`, panel);
    expect(added.status).toBe(200);
    expect((added.body as { pack: Pack }).pack.pages.find((p) => p.key === "routes")!.panels.map((p) => p.key)).toEqual(
      ["tiles", "over-time", "services", "tiles-2"],
    );
    const moon = { dimension: "moon", level: null };
    const cases: [object, string][] = [
      [{ ...panel, key: "a", kpis: ["moon"] }, "unknown-kpi"],
      [{ ...panel, key: "a", repeatBy: moon }, "unknown-scope"],
      [{ ...panel, key: "a", repeatBy: { dimension: "route", level: "Moon" } }, "unknown-scope"],
      [{ ...panel, key: "a", kpis: [] }, "invalid-request"],
    ];
    for (const [body, code] of cases)
      expect((await api.putOn(`${PAGE}/panels`, body as PanelDefinition)).body).toMatchObject({ code });
    await api.signIn(SKERRY_MANAGER);
    expect((await api.takeOff(`${PAGE}/panels/tiles-2`)).status).toBe(403);
    await api.signIn(ANALYST);
    expect((await api.takeOff(`${PAGE}/panels/tiles-2`)).status).toBe(200);
    // What is gone already need not be taken off again.
    expect((await api.takeOff(`${PAGE}/panels/tiles-2`)).body).toMatchObject({ change: null });
  });
});
