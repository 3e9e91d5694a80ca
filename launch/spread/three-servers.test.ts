import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Difference, LoadDetail } from "#contract/loads.ts";
import type { Pack } from "#contract/pack.ts";
import type { SourceLinesAnswer } from "#contract/provenance.ts";
import { connect } from "#server/db/connect.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient } from "#testing/intake-client.ts";
import { startThreeServers, type ThreeServers } from "./three-servers.ts";

const folder = mkdtempSync(join(tmpdir(), "hackle-spread-"));
const FRAMES = ["", "?asOf=2025-06&span=quarter&basis=prior-year&scope=route:northreach", "?span=trailing-12"];
let servers: ThreeServers;
let knex: Knex;
let api: ApiClient;
let before: unknown;

beforeAll(async () => {
  servers = await startThreeServers(folder, { scale: 0.3, isForgetful: true });
  knex = connect(servers.url);
  api = await serveApi(knex);
  await api.signIn(ANALYST);
  before = await readAll();
  await servers.spread();
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
  servers.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** All panels of the pack in some frames, and the lines behind a figure: by SQL, anew. */
async function readAll(): Promise<unknown> {
  const { pages } = (await api.get("/api/packs/monthly-review")).body as Pack;
  const found: Record<string, unknown> = {};
  for (const frame of FRAMES)
    for (const { key } of pages) {
      const text = (await api.get(`/api/packs/monthly-review/pages/${key}/answers${frame}`)).body as string;
      found[`${key}${frame}`] = text.split("\n").sort();
    }
  found["lines"] = (await api.get("/api/provenance/lines?kpi=fuel&side=actual&limit=500")).body;
  return found;
}

describe("facts spread over three servers", () => {
  it("lie on the others, and give the same figures and source lines", async () => {
    const { rows } = await knex.raw<{ rows: { server: string; months: number; rows: number }[] }>(
      `select tableoid::regclass::text as server, count(distinct month)::int as months, count(*)::int as rows
       from fact where dataset_id = (select id from dataset where key = 'management-accounts') group by 1 order by 1`,
    );
    expect(rows.map(({ server }) => server)).toEqual(["fact_1_0", "fact_1_1", "fact_1_rest"]);
    for (const { rows: own } of rows) expect(own).toBeGreaterThan(1000);
    for (const [i, cluster] of servers.clusters.slice(1).entries()) {
      const own = connect(cluster.urlOf("hackle_facts"), { poolSize: 1 });
      const there = await own(`fact_1_${i}`).count<{ count: string }[]>();
      expect(Number(there[0]!.count)).toBe(rows[i]!.rows);
      await own.destroy();
    }
    expect(await readAll()).toEqual(before);
  });

  it("are added up where they lie, for every sum that a page asks", async () => {
    const asked: { sql: string; bindings: unknown[] }[] = [];
    const note = (query: { sql: string; bindings: unknown[] }) => {
      if (/group by dataset_id/.test(query.sql)) asked.push(query);
    };
    knex.on("query", note);
    await api.get("/api/packs/monthly-review/pages/cover/answers?asOf=2026-07");
    await api.get("/api/packs/monthly-review/pages/routes/answers?asOf=2026-07");
    await api.get("/api/packs/monthly-review/pages/northreach/answers?asOf=2026-07&span=month-to-date");
    knex.removeListener("query", note);
    expect(asked.length).toBeGreaterThan(3);
    for (const { sql, bindings } of asked) {
      const { rows } = await knex.raw<{ rows: { "QUERY PLAN": string }[] }>(
        `explain (verbose, costs off) ${sql.replace(/\$\d+/g, "?")}`,
        bindings as never,
      );
      const plan = rows.map((row) => row["QUERY PLAN"]).join("\n");
      const remote = [...plan.matchAll(/Remote SQL: (.*)/g)].map(([, text]) => text!);
      expect(remote.length, plan).toBeGreaterThan(0);
      for (const text of remote) expect(text).toMatch(/^SELECT .*sum\(amount\).* GROUP BY /);
    }
  });

  it("are read into memory from all of them", async () => {
    const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
    await keeper.refresh();
    const { facts } = await structureReader(knex)();
    const rows = [...keeper.at(facts)!.datasets].flatMap(({ blocks }) => [...blocks.values()]);
    const inMemory = rows.reduce((sum, block) => sum + block.totals.reduce((a, b) => a + b, 0), 0);
    const { rows: own } = await knex.raw<{ rows: { sum: string }[] }>("select sum(amount)::text as sum from fact");
    expect(inMemory).toBe(Number(own[0]!.sum));
  });

  it("take a load that restates a month, show its lines, let it be undone and brought back", async () => {
    const client = intakeClient(api);
    const read = async () => {
      const { body } = await api.get("/api/provenance/lines?kpi=maintenance&side=actual&asOf=2026-08&span=month");
      return body as SourceLinesAnswer;
    };
    const held = await read();
    const draft = await client.upload(
      "august.csv",
      "month;account;route;amount\n2026-08;repairs;tarn-point-osk;1234.50\n",
    );
    const restating = await client.change(draft, { answers: { ...draft.definition.answers, posting: "restate" } });
    const job = await client.post(restating);
    expect(job).toMatchObject({ state: "done", message: null });
    const posted = await read();
    expect([posted.sum, posted.lines.map(({ load }) => load)]).toEqual([1234.5, ["august.csv"]]);
    const [replaced] = ((await api.get(`/api/loads/${job.loadId}`)).body as LoadDetail).replaces;
    const { body: difference } = await api.get(`/api/loads/${replaced!.id}/difference?to=${job.loadId}`);
    expect((difference as Difference).lines).toContainEqual(
      expect.objectContaining({ side: "new", amount: "1234.50" }),
    );
    expect((await api.send("POST", `/api/loads/${job.loadId}/undo`)).status).toBe(200);
    expect(await read()).toEqual(held);
    expect(await readAll()).toEqual(before);
    expect((await api.send("POST", `/api/loads/${job.loadId}/redo`)).status).toBe(200);
    expect(await read()).toEqual(posted);
  });
});
