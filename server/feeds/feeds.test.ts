import { createServer, type Server } from "node:http";
import { once } from "node:events";
import type { AddressInfo } from "node:net";
import { parquetReadObjects } from "hyparquet";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Feed } from "#contract/feeds.ts";
import type { LoadDetail } from "#contract/loads.ts";
import { createService } from "#demo/service/service.ts";
import { noteChange } from "#server/db/data-version.ts";
import { nextTurn } from "#server/feeds/schedule.ts";
import { registerFeeds } from "#launch/service-process.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
let service: Server;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "feeds");
  service = createServer(createService()).listen(0, "127.0.0.1");
  await once(service, "listening");
  await registerFeeds(database.knex, `http://127.0.0.1:${(service.address() as AddressInfo).port}`);
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
  client = intakeClient(api);
});
afterAll(async () => {
  await api.close();
  service.closeAllConnections();
  service.close();
  await database.drop();
});
const feed = async (key: string) => (await client.get<Feed[]>("/api/feeds")).find((f) => f.key === key)!;
const pull = async (key: string, mode: Feed["mode"] = "normal") => {
  await api.send("PUT", `/api/feeds/${key}`, { mode });
  const { status, body } = await api.send("POST", `/api/feeds/${key}/pull`, {});
  if (status !== 200) throw new Error((body as { detail: string }).detail);
  for (;;) {
    const last = (await feed(key)).pulls[0]!;
    if (last.state !== "running") return last;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

describe("the ledger's feed", () => {
  it("waits for a person the first time, and posts the following months with one click", async () => {
    expect((await feed("ledger")).next).toBe("November FY27");
    const first = await pull("ledger");
    expect([first.state, first.message]).toEqual(["waiting", expect.stringContaining("A new kind of file")]);
    await expect(pull("ledger")).rejects.toThrow("still waits to be posted");
    let draft = await client.checked(first.draftId!);
    draft = await client.change(draft, {
      rules: {
        ...draft.definition.rules,
        mapping: {
          ...draft.definition.rules.mapping,
          fractions: "round",
          accounts: { "Harbour levy": { to: "port_dues" } },
        },
      },
    });
    expect((await client.post(draft)).state).toBe("done");
    for (const [month, file] of [
      ["December FY27", "december-ledger.csv"],
      ["January FY27", "january-ledger.csv"],
    ]) {
      expect((await feed("ledger")).next).toBe(month);
      const next = await pull("ledger");
      expect([next.state, next.message]).toEqual(["posted", expect.stringContaining(`${file}: `)]);
      expect((await client.get<LoadDetail>(`/api/loads/${next.loadId}`)).months).toBe(month);
    }
  });
  it("posts nothing of a file that is cut off or laid out otherwise, and takes its time over a slow one", async () => {
    const cut = await pull("ledger", "cut");
    expect([cut.state, cut.message]).toEqual([
      "failed",
      expect.stringContaining("broke off in the middle of february-ledger.csv"),
    ]);
    const other = await pull("ledger", "schema");
    expect([other.state, other.message]).toEqual([
      "waiting",
      expect.stringContaining("Account, Amount are missing; GL code, Value EUR are new"),
    ]);
    expect((await api.send("DELETE", `/api/drafts/${other.draftId}`)).status).toBe(204);
    const slow = await pull("ledger", "slow");
    expect(slow.state).toBe("posted");
    expect(slow.seconds).toBeGreaterThan(3);
    await pull("ledger");
    expect((await pull("ledger")).state).toBe("nothing");
  });
  it("says when the service is away", async () => {
    await database.knex("feed").where({ key: "operations" }).update({ url: "http://127.0.0.1:9/operations" });
    const away = await pull("operations");
    expect([away.state, away.message]).toEqual(["failed", expect.stringContaining("does not answer")]);
  });
  it("has its next turn in the queue, once, and none when it is to be pulled by hand", async () => {
    const planned = () =>
      database
        .knex("hackle_companies.work")
        .where({ task: "turn" })
        .select<{ subject: object; run_after: Date }[]>("*");
    await api.send("PUT", "/api/feeds/ledger", { schedule: "hourly" });
    await api.send("PUT", "/api/feeds/ledger", { schedule: "daily" });
    const [turn, ...others] = await planned();
    expect([others, turn!.subject]).toEqual([[], { kind: "turn", feed: "ledger" }]);
    expect([turn!.run_after.getHours(), turn!.run_after.getMinutes()]).toEqual([6, 30]);
    await api.send("PUT", "/api/feeds/ledger", { schedule: "never" });
    expect(await planned()).toEqual([]);
    const after = new Date("2026-11-23T10:59:00");
    expect(nextTurn("hourly", after)).toEqual(new Date("2026-11-23T11:00:00"));
    expect([nextTurn("never", after), nextTurn(null, after)]).toEqual([null, null]);
  });
  it("is pulled when its turn has come, whoever looks at it, and the turn after is planned", async () => {
    const pulls = async () => (await feed("ledger")).pulls.filter(({ startedBy }) => startedBy === "the schedule");
    await api.send("PUT", "/api/feeds/ledger", { schedule: "hourly" });
    await database
      .knex("hackle_companies.work")
      .where({ task: "turn" })
      .update({ run_after: new Date(0) });
    await database.knex.raw("select pg_notify('hackle_work', '')");
    for (let i = 0; i < 200 && (await pulls()).length === 0; i += 1) await new Promise((wake) => setTimeout(wake, 25));
    expect(await pulls()).toHaveLength(1);
    const [next] = await database
      .knex("hackle_companies.work")
      .where({ task: "turn" })
      .whereNull("claimed_by")
      .select("run_after");
    expect(next.run_after.getTime()).toBeGreaterThan(Date.now());
    await api.send("PUT", "/api/feeds/ledger", { schedule: "never" });
    while ((await feed("ledger")).pulls[0]!.state === "running") await new Promise((wake) => setTimeout(wake, 25));
  });
});

describe("exports", () => {
  it("hold every fact as CSV and as Parquet, filtered, to the last digit", async () => {
    const query = "scenario=actual&from=2026-10&to=2026-10";
    const csv = ((await api.get(`/api/datasets/management-accounts/export?${query}`)).body as string)
      .trim()
      .split("\r\n");
    const sum = csv
      .slice(1)
      .filter((line) => line.includes(",repairs,"))
      .reduce((total, line) => total + Math.round(Number(/,(-?\d+\.\d\d),EUR,/.exec(line)![1]) * 100), 0);
    const { rows } = await database.knex.raw<{ rows: { sum: string; n: string }[] }>(
      `select sum(amount) filter (where account_id = (select id from account where key = 'repairs')) as sum, count(*) as n from fact
       where dataset_id = 1 and scenario_id = 1 and month = 2026 * 12 + 9`,
    );
    expect([sum, csv.length - 1]).toEqual([Number(rows[0]!.sum), Number(rows[0]!.n)]);
    const cookie = await api.send("POST", "/api/session/sample", { email: ANALYST });
    const response = await fetch(`${api.origin}/api/datasets/management-accounts/export?format=parquet&${query}`, {
      headers: { cookie: cookie.headers.get("set-cookie")!.split(";")[0]! },
    });
    const file = await response.arrayBuffer();
    const parquet = await parquetReadObjects({ file });
    expect(parquet).toHaveLength(csv.length - 1);
    const repairs = parquet.filter((row) => row["Account key"] === "repairs");
    expect(Math.round(repairs.reduce((total, row) => total + Number(row["Amount"]), 0) * 100)).toBe(sum);
  });
  it("are in the company's currency", async () => {
    await database.knex("company").update({ currency: "USD" });
    await noteChange(database.knex);
    const query = "scenario=actual&from=2026-10&to=2026-10";
    const csv = (await api.get(`/api/datasets/management-accounts/export?${query}`)).body as string;
    expect([csv.includes(",USD,"), csv.includes(",EUR,")]).toEqual([true, false]);
    await database.knex("company").update({ currency: "EUR" });
    await noteChange(database.knex);
  });
  it("stay inside what a reader may see, and name what is not there", async () => {
    await api.signIn(SKERRY_MANAGER);
    const csv = (await api.get("/api/datasets/daily-operations/export?from=2026-10&to=2026-10")).body as string;
    expect(csv).toContain("Tarn Point–Osk");
    expect(csv).not.toContain("Vardel–Isenholm");
    await api.signIn(ANALYST);
    for (const path of [
      "gone/export",
      "targets/export?from=x",
      "targets/export?scenario=x",
      "targets/export?scope=route:x",
    ])
      expect((await api.get(`/api/datasets/${path}`)).status).toBeGreaterThanOrEqual(404);
  });
});
