import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { AccountItem, EditableStructure, MemberItem } from "#contract/structure.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "structure");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
const chart = async () => (await api.get("/api/structure")).body as EditableStructure;
/** A command is made on top of the version there is now, unless it says another one. */
const withVersion = async (path: string, body: object): Promise<object> => {
  const { key } = body as { key?: string };
  if (key === undefined || "version" in body) return body;
  const { accounts, dimensions } = await chart();
  const own = dimensions.find((d) => path.includes(`/dimensions/${d.key}/`))?.members ?? accounts;
  return { ...body, version: own.find((item) => item.key === key)?.version ?? 1 };
};
const send = async (path: string, body: object, method = "POST") => {
  const answer = await api.send(method, path, method === "POST" ? await withVersion(path, body) : body);
  return {
    status: answer.status,
    chart: answer.body as EditableStructure,
    detail: (answer.body as { detail?: string }).detail ?? "",
  };
};
const revenue = async () => JSON.stringify((await api.get("/api/provenance?kpi=total_revenue&side=actual")).body);

describe("the chart of accounts", () => {
  it("renames and moves without touching a figure, and takes it back", async () => {
    const before = await chart();
    const figure = await revenue();
    const { isUsed: _, version: _version, ...booking } = before.accounts.find((a) => a.key === "booking_fees")!;
    await send("/api/structure/accounts", {
      do: "change",
      key: "booking_fees",
      item: { ...booking, name: "Reservation fees" },
    });
    const moved = await send("/api/structure/accounts", {
      do: "move",
      key: "booking_fees",
      parent: "other_revenue",
      before: "charter_revenue",
    });
    expect(moved.status).toBe(200);
    const other = moved.chart.accounts.filter((a) => a.parent === "other_revenue").map((a) => a.name);
    expect(other).toEqual(["Reservation fees", "Charter revenue", "Port services"]);
    expect(moved.chart.changes.slice(0, 2).map((c) => c.said)).toEqual([
      "Moved Reservation fees below Other revenue",
      "Renamed Booking fees to Reservation fees",
    ]);
    expect((await revenue()).replaceAll("Reservation fees", "Booking fees")).toHaveLength(figure.length);
    for (const { id } of moved.chart.changes.slice(0, 2))
      expect((await send(`/api/structure/changes/${id}/undo`, {})).status).toBe(200);
    const content = (all: EditableStructure) => all.accounts.map(({ version: _v, ...account }) => account);
    expect(content(await chart())).toEqual(content(before));
    expect(await revenue()).toBe(figure);
  });
  it("refuses what would break it, saying why and what to do instead", async () => {
    const gone = await send("/api/structure/accounts", { do: "remove", key: "port_overtime" });
    expect([gone.status, gone.detail]).toEqual([409, expect.stringContaining("Retire it instead")]);
    expect(
      (await send("/api/structure/accounts", { do: "move", key: "revenue", parent: "ticket_revenue", before: null }))
        .detail,
    ).toBe("Revenue cannot go below itself.");
    expect(
      (await send("/api/structure/accounts", { do: "move", key: "headcount", parent: "crew_cost", before: null }))
        .detail,
    ).toContain("gather differently");
    const under: AccountItem = {
      key: "tips",
      name: "Tips",
      parent: "shop_sales",
      kind: "income",
      behaviour: "flow",
      unit: { kind: "money" },
      decimals: 2,
      aliases: [],
      isRetired: false,
    };
    expect((await send("/api/structure/accounts", { do: "add", item: under })).detail).toContain(
      "Shop sales has facts of its own",
    );
  });
  it("is exported and taken over as CSV, changing only what the file changes", async () => {
    const csv = (await api.get("/api/structure/accounts.csv")).body as string;
    const same = await api.send("PUT", "/api/structure/accounts.csv", csv, { "content-type": "text/csv" });
    expect((same.body as EditableStructure).changes.length).toBe((await chart()).changes.length);
    const edited = csv.replace(
      "Shop sales,onboard_revenue,income,flow,money,2,,no",
      "Shop takings,onboard_revenue,income,flow,money,2,Kiosk; Shop,yes",
    );
    expect(edited).not.toBe(csv);
    const answer = (await api.send("PUT", "/api/structure/accounts.csv", edited, { "content-type": "text/csv" }))
      .body as EditableStructure;
    expect(answer.accounts.find((a) => a.key === "shop_sales")).toMatchObject({
      name: "Shop takings",
      aliases: ["Kiosk", "Shop"],
      isRetired: true,
    });
    const bad = await api.send("PUT", "/api/structure/accounts.csv", "key,name,kind\nnew_one,New,incomme\n", {
      "content-type": "text/csv",
    });
    expect((bad.body as { detail: string }).detail).toContain('Line 2, column kind: "incomme"');
    await send(`/api/structure/changes/${answer.changes[0]!.id}/undo`, {});
  });
});

describe("dimensions", () => {
  it("get members, attributes and order, and keep their depth", async () => {
    const item: MemberItem = {
      key: "osk-vardel",
      name: "Osk–Vardel",
      parent: "northreach",
      aliases: [],
      isRetired: false,
      attributes: { Opened: "2026" },
      firstMonth: "2026-11",
      lastMonth: null,
    };
    const added = await send("/api/structure/dimensions/route/members", { do: "add", item });
    expect(added.chart.dimensions[0]!.members.find((m) => m.key === "osk-vardel")).toMatchObject({
      attributes: { Opened: "2026" },
    });
    const deep = await send("/api/structure/dimensions/route/members", {
      do: "move",
      key: "osk-vardel",
      parent: "tarn-point-osk",
      before: null,
    });
    expect([deep.status, deep.detail]).toEqual([422, expect.stringContaining("level 3")]);
    expect(
      (await send("/api/structure/dimensions/route/members", { do: "remove", key: "tarn-point-osk" })).status,
    ).toBe(409);
    expect((await send("/api/structure/dimensions/route/members", { do: "remove", key: "osk-vardel" })).status).toBe(
      200,
    );
  });
});

describe("two people on one item", () => {
  const ROUTES = "/api/structure/dimensions/route/members";
  it("are told of each other, with both versions, and neither change is lost", async () => {
    const { version, isUsed: _, ...fuel } = (await chart()).accounts.find((a) => a.key === "marine_fuel")!;
    const change = (name: string) => ({ do: "change", key: fuel.key, version, item: { ...fuel, name } });
    expect((await send("/api/structure/accounts", change("Bunker fuel"))).status).toBe(200);
    const second = await api.send("POST", "/api/structure/accounts", change("Fuel oil"));
    expect(second).toMatchObject({
      status: 409,
      body: {
        code: "changed-meanwhile",
        both: { current: { name: "Bunker fuel", version: version + 1 }, yours: { name: "Fuel oil" } },
      },
    });
    expect((await chart()).accounts.find((a) => a.key === "marine_fuel")!.name).toBe("Bunker fuel");
    const onTop = { ...change("Fuel oil"), version: version + 1 };
    expect((await send("/api/structure/accounts", onTop)).status).toBe(200);
  });
  it("do not meet where they change different ones", async () => {
    const members = (await chart()).dimensions.find((d) => d.key === "route")!.members;
    const [a, b] = ["tarn-point-osk", "vardel-isenholm"].map((key) => members.find((m) => m.key === key)!);
    for (const { version, posted: _, ...item } of [a!, b!]) {
      const command = { do: "change", key: item.key, version, item: { ...item, aliases: [`${item.name} line`] } };
      expect((await api.send("POST", ROUTES, command)).status).toBe(200);
    }
  });
});

describe("the life of a member", () => {
  it("is proposed from what was posted, kept, and refused where it ends before it begins", async () => {
    const vessels = "/api/structure/dimensions/vessel/members";
    const find = (all: EditableStructure) =>
      all.dimensions.find((d) => d.key === "vessel")!.members.find((m) => m.key === "old-curlew")!;
    const { version, posted, ...curlew } = find(await chart());
    expect(posted).toEqual({ from: "2023-04", to: "2025-09" });
    const live = (firstMonth: string, lastMonth: string) => ({
      do: "change",
      key: curlew.key,
      version,
      item: { ...curlew, firstMonth, lastMonth },
    });
    expect((await send(vessels, live("2025-09", "2023-04"))).detail).toContain("would end before it begins");
    expect(find((await send(vessels, live("2023-04", "2025-09"))).chart)).toMatchObject({
      firstMonth: "2023-04",
      lastMonth: "2025-09",
      version: version + 1,
    });
  });
});

describe("the calendar", () => {
  it("moves the fiscal year, and datasets close months or do not", async () => {
    expect((await send("/api/structure/calendar", { startMonth: 1 }, "PUT")).chart.lastClosed?.name).toBe(
      "October FY26",
    );
    await send("/api/structure/calendar", { startMonth: 4 }, "PUT");
    const both = await send("/api/structure/datasets/daily-operations", { closes: true }, "PUT");
    expect(both.chart.lastClosed?.name).toBe("October FY27");
    await send("/api/structure/datasets/daily-operations", { closes: false }, "PUT");
    expect((await send("/api/structure/calendar", { startMonth: 13 }, "PUT")).status).toBe(400);
  });
  it("is told what days without lines are, and takes it back", async () => {
    const daysOf = ({ datasets }: EditableStructure) =>
      Object.fromEntries(datasets.map(({ key, days }) => [key, days]));
    expect(daysOf(await chart())).toEqual({
      "management-accounts": null,
      "daily-operations": { as: "missing", isClear: true },
      targets: null,
    });
    const path = "/api/structure/datasets/daily-operations";
    const said = await send(path, { daysWithoutLines: "zero" }, "PUT");
    expect(daysOf(said.chart)["daily-operations"]).toEqual({ as: "zero", isClear: true });
    expect((await send(path, { daysWithoutLines: "never" }, "PUT")).status).toBe(400);
    const undone = await api.send("POST", `/api/structure/changes/${said.chart.changes[0]!.id}/undo`, {});
    expect(daysOf(undone.body as EditableStructure)["daily-operations"]).toEqual({ as: "missing", isClear: true });
  });
  it("takes back a change of a dataset that an older version made, which knew of fewer settings", async () => {
    const path = "/api/structure/datasets/targets";
    const { chart: changed } = await send(path, { name: "Aims" }, "PUT");
    const { id } = changed.changes[0]!;
    await database.knex.raw(
      `update change set diff = replace(diff::text, ', "days_without_lines": null', '')::jsonb where id = ?`,
      [id],
    );
    const { rows } = await database.knex.raw<{ rows: { diff: object }[] }>("select diff from change where id = ?", [
      id,
    ]);
    expect(JSON.stringify(rows[0]!.diff)).not.toContain("days_without_lines");
    const undone = await api.send("POST", `/api/structure/changes/${id}/undo`, {});
    expect(undone.status).toBe(200);
    expect((undone.body as EditableStructure).datasets.find(({ key }) => key === "targets")?.name).toBe("Targets");
  });
  it("is for those who may edit", async () => {
    await api.signIn(SKERRY_MANAGER);
    expect((await api.get("/api/structure")).status).toBe(403);
    expect((await send("/api/structure/calendar", { startMonth: 1 }, "PUT")).status).toBe(403);
    await api.signIn(ANALYST);
  });
});
