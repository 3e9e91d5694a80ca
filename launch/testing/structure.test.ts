import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { AccountItem, Chart, MemberItem } from "#contract/chart.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "./api.ts";
import { openOwnDatabase, type OwnDatabase } from "./own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "structure");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
const chart = async () => (await api.get("/api/chart")).body as Chart;
const send = async (path: string, body: unknown, method = "POST") => {
  const answer = await api.send(method, path, body);
  return {
    status: answer.status,
    chart: answer.body as Chart,
    detail: (answer.body as { detail?: string }).detail ?? "",
  };
};
const revenue = async () => JSON.stringify((await api.get("/api/provenance?kpi=total_revenue&side=actual")).body);

describe("the chart of accounts", () => {
  it("renames and moves without touching a figure, and takes it back", async () => {
    const before = await chart();
    const figure = await revenue();
    const { isUsed: _, ...booking } = before.accounts.find((a) => a.key === "booking_fees")!;
    await send("/api/chart/accounts", {
      do: "change",
      key: "booking_fees",
      item: { ...booking, name: "Reservation fees" },
    });
    const moved = await send("/api/chart/accounts", {
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
      expect((await send(`/api/chart/changes/${id}/undo`, {})).status).toBe(200);
    expect((await chart()).accounts).toEqual(before.accounts);
    expect(await revenue()).toBe(figure);
  });
  it("refuses what would break it, saying why and what to do instead", async () => {
    const gone = await send("/api/chart/accounts", { do: "remove", key: "port_overtime" });
    expect([gone.status, gone.detail]).toEqual([409, expect.stringContaining("Retire it instead")]);
    expect(
      (await send("/api/chart/accounts", { do: "move", key: "revenue", parent: "ticket_revenue", before: null }))
        .detail,
    ).toBe("Revenue cannot go below itself.");
    expect(
      (await send("/api/chart/accounts", { do: "move", key: "headcount", parent: "crew_cost", before: null })).detail,
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
    expect((await send("/api/chart/accounts", { do: "add", item: under })).detail).toContain(
      "Shop sales has facts of its own",
    );
  });
  it("is exported and taken over as CSV, changing only what the file changes", async () => {
    const csv = (await api.get("/api/chart/accounts.csv")).body as string;
    const same = await api.send("PUT", "/api/chart/accounts.csv", csv, { "content-type": "text/csv" });
    expect((same.body as Chart).changes.length).toBe((await chart()).changes.length);
    const edited = csv.replace(
      "Shop sales,onboard_revenue,income,flow,money,2,,no",
      "Shop takings,onboard_revenue,income,flow,money,2,Kiosk; Shop,yes",
    );
    expect(edited).not.toBe(csv);
    const answer = (await api.send("PUT", "/api/chart/accounts.csv", edited, { "content-type": "text/csv" }))
      .body as Chart;
    expect(answer.accounts.find((a) => a.key === "shop_sales")).toMatchObject({
      name: "Shop takings",
      aliases: ["Kiosk", "Shop"],
      isRetired: true,
    });
    const bad = await api.send("PUT", "/api/chart/accounts.csv", "key,name,kind\nnew_one,New,incomme\n", {
      "content-type": "text/csv",
    });
    expect((bad.body as { detail: string }).detail).toContain('Line 2, column kind: "incomme"');
    await send(`/api/chart/changes/${answer.changes[0]!.id}/undo`, {});
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
    };
    const added = await send("/api/chart/dimensions/route/members", { do: "add", item });
    expect(added.chart.dimensions[0]!.members.find((m) => m.key === "osk-vardel")).toMatchObject({
      attributes: { Opened: "2026" },
    });
    const deep = await send("/api/chart/dimensions/route/members", {
      do: "move",
      key: "osk-vardel",
      parent: "tarn-point-osk",
      before: null,
    });
    expect([deep.status, deep.detail]).toEqual([422, expect.stringContaining("level 3")]);
    expect((await send("/api/chart/dimensions/route/members", { do: "remove", key: "tarn-point-osk" })).status).toBe(
      409,
    );
    expect((await send("/api/chart/dimensions/route/members", { do: "remove", key: "osk-vardel" })).status).toBe(200);
  });
});

describe("the calendar", () => {
  it("moves the fiscal year, and datasets close months or do not", async () => {
    expect((await send("/api/chart/calendar", { startMonth: 1 }, "PUT")).chart.lastClosed?.name).toBe("October FY26");
    await send("/api/chart/calendar", { startMonth: 4 }, "PUT");
    const both = await send("/api/chart/datasets/daily-operations", { closes: true }, "PUT");
    expect(both.chart.lastClosed?.name).toBe("October FY27");
    await send("/api/chart/datasets/daily-operations", { closes: false }, "PUT");
    expect((await send("/api/chart/calendar", { startMonth: 13 }, "PUT")).status).toBe(400);
  });
  it("is for those who may edit", async () => {
    await api.signIn(SKERRY_MANAGER);
    expect((await api.get("/api/chart")).status).toBe(403);
    expect((await send("/api/chart/calendar", { startMonth: 1 }, "PUT")).status).toBe(403);
    await api.signIn(ANALYST);
  });
});
