import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { Health } from "#contract/health.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient } from "#testing/intake-client.ts";
import { createDatabase } from "../database.ts";
import { openHome } from "../home.ts";
import { loadSample } from "../sample.ts";
import { startCluster, type Cluster } from "./cluster.ts";
import { startReplica, type Replica } from "./replica.ts";

const folder = mkdtempSync(join(tmpdir(), "hackle-replica-"));
const sums = { own: 0, replica: 0 };
let cluster: Cluster;
let standby: Replica;
let knex: Knex;
let replica: Knex;
let api: ApiClient;

beforeAll(async () => {
  cluster = await startCluster(openHome(join(folder, "own")), { isForgetful: true });
  await createDatabase(cluster, "hackle");
  knex = connect(cluster.urlOf("hackle"));
  await migrate(knex);
  await loadSample(knex, { scale: 0.3 });
  standby = await startReplica(cluster, folder);
  replica = connect(standby.urlOf("hackle"), { patience: "requests" });
  for (const [name, own] of [
    ["own", knex],
    ["replica", replica],
  ] as const)
    own.on("query", ({ sql }: { sql: string }) => {
      if (/group by dataset_id/.test(sql)) sums[name] += 1;
    });
  api = await serveApi(knex, { replica });
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await Promise.all([knex.destroy(), replica.destroy()]);
  cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

let asked = 0;
/** Asks for a figure that was not asked for before, and says which database gave it. */
async function repairs(): Promise<{ value: number; from: string }> {
  const before = { ...sums };
  asked += 1;
  const formula = `repairs * ${asked} / ${asked}`;
  const { body } = await api.send("POST", "/api/formula/try", { formula, self: null, asOf: "2026-11", span: "month" });
  const { points } = body as { points: { actual: { value?: number } }[] };
  const from = (["own", "replica"] as const).filter((name) => sums[name] > before[name]).join(" and ");
  return { value: points.reduce((sum, { actual }) => sum + (actual.value ?? 0), 0), from };
}
const until = async (from: string) => {
  let found = await repairs();
  while (found.from !== from) found = await repairs();
  return found.value;
};

it("facts are read from a replica while it has come as far, and from the database where it has not, or is gone", async () => {
  const before = await until("replica");
  await replica.raw("select pg_wal_replay_pause()");
  const client = intakeClient(api);
  const draft = await client.upload(
    "more.csv",
    "month;account;route;amount\n2026-11;repairs;tarn-point-osk;70000.00\n",
  );
  const job = await client.post(draft);
  expect([job.state, job.message]).toEqual(["done", null]);
  // The replica does not know of the load yet: what it has would be the figures of yesterday.
  const posted = await repairs();
  expect([posted.from, posted.value]).toEqual(["own", before + 70_000]);
  // What resumes may itself be in the way of what is then replayed.
  await replica.raw("select pg_wal_replay_resume()").catch((error: Error) => {
    if (!/conflict with recovery/.test(error.message)) throw error;
  });
  expect(await until("replica")).toBe(posted.value);
  standby.stop();
  expect((await repairs()).from).toBe("own");
  expect((await repairs()).value).toBe(posted.value);
  expect((await api.get("/api/health")).body as Health).toMatchObject({ ready: true });
});
