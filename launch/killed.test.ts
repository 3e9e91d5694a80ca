import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Draft, Job } from "#contract/intake.ts";
import type { LoadList } from "#contract/loads.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { writeLedger } from "../bench/ledger-file.ts";
import { createDatabase } from "./database.ts";
import { openHome } from "./home.ts";
import { freePort, startCluster, type Cluster } from "./postgres/cluster.ts";
import { loadSample } from "./sample.ts";
import { startServer, type ServerProcess } from "./server-process.ts";
import { ANALYST } from "#testing/api.ts";

const ROWS = 12_000;
/** Each kill takes seconds: as many as show it here, and 20 in the sweep. */
const KILLS = Number(process.env["HACKLE_KILLS"] ?? 5);
const STARTS = Math.ceil(KILLS / 2);
const folder = mkdtempSync(join(tmpdir(), "hackle-killed-"));
const ledger = join(folder, "ledger.csv");
let cluster: Cluster;
let server: ServerProcess;
let port = 0;
let cookie = "";

beforeAll(async () => {
  await writeLedger(ledger, ROWS);
  cluster = await startCluster(openHome(join(folder, "home")), { isForgetful: true });
  await createDatabase(cluster, "hackle");
  const knex = connect(cluster.urlOf("hackle"), { poolSize: 2 });
  await migrate(knex);
  await loadSample(knex, { scale: 0.3 });
  await knex.destroy();
  port = await freePort();
  await start();
});
afterAll(async () => {
  await server.stop();
  cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

const start = async () => {
  server = await startServer({
    databaseUrl: cluster.urlOf("hackle"),
    port,
    webFolder: folder,
    filesFolder: join(folder, "files"),
    quiet: true,
    logLevel: "silent",
  });
};
const origin = () => `http://127.0.0.1:${port}`;
/** Asks until the server and its database answer again. */
const ask = async <T>(path: string, options: RequestInit = {}): Promise<T> => {
  for (let attempt = 0; ; attempt += 1) {
    const response = await fetch(origin() + path, { ...options, headers: { cookie, ...options.headers } }).catch(
      () => undefined,
    );
    if (response?.status === 401) await signIn();
    else if (response && response.status < 500) return (await response.json()) as T;
    if (attempt > 150) throw new Error(`${path} does not answer`);
    await wait(100);
  }
};
const send = <T>(method: string, path: string, body: unknown) =>
  ask<T>(path, { method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
const signIn = async () => {
  const response = await fetch(`${origin()}/api/session/sample`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ email: ANALYST }),
  }).catch(() => undefined);
  cookie = response?.headers.get("set-cookie")?.split(";")[0] ?? cookie;
};
const bring = async (): Promise<Draft> => {
  let draft = await ask<Draft>("/api/drafts?name=ledger.csv", { method: "POST", body: readFileSync(ledger) });
  while (!draft.report) {
    await wait(100);
    draft = await ask<Draft>(`/api/drafts/${draft.id}`);
    if (draft.job?.state === "failed") throw new Error(draft.job.message ?? "failed");
  }
  return draft;
};
/** What there is: facts of the file, and facts in all. */
const facts = async () => {
  for (let attempt = 0; ; attempt += 1) {
    const knex = connect(cluster.urlOf("hackle"), { poolSize: 1 });
    try {
      const { rows } = await knex.raw<{ rows: { own: string; others: string }[] }>(
        `select count(*) filter (where load.file_name = 'ledger.csv') as own,
           coalesce(sum(amount) filter (where load.file_name <> 'ledger.csv'), 0)::text as others
         from fact join load on load.id = fact.load_id`,
      );
      return { own: Number(rows[0]!.own), others: rows[0]!.others };
    } catch (error) {
      if (attempt > 100) throw error;
      await wait(100);
    } finally {
      await knex.destroy();
    }
  }
};

/** The dead server's backends may hold its memory for a moment. */
const restartDatabase = async () => {
  for (let attempt = 0; ; attempt += 1) {
    await wait(300);
    try {
      return cluster.restart();
    } catch (error) {
      if (attempt > 40) throw error;
    }
  }
};

describe("a server or a database that is killed in the middle of a posting", () => {
  it("leaves the whole load or nothing, time and again, and says afterwards what happened", async () => {
    await signIn();
    const before = await facts();
    expect(before.own).toBe(0);
    const outcomes: string[] = [];
    let draft = await bring();
    // How long a posting takes when nobody kills it tells where the random moments may lie.
    const started = performance.now();
    let job = await send<Job>("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
    while (!hasEnded(job)) {
      await wait(20);
      job = await ask<Job>(`/api/jobs/${job.id}`);
    }
    const usual = performance.now() - started;
    expect((await facts()).own).toBe(ROWS);
    await send("POST", `/api/loads/${job.loadId}/undo`, {});
    draft = await bring();

    for (let i = 0; i < KILLS; i += 1) {
      const kill = i % 3 === 0 ? "server" : "database";
      job = await send<Job>("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
      // Spread over the posting, and a little beyond its end.
      await wait((((i * 3 + 1) % KILLS) / KILLS) * 1.16 * usual);
      if (kill === "server") {
        server.child.kill("SIGKILL");
        await wait(100);
        await start();
      } else {
        const pid = Number(readFileSync(join(cluster.folder, "postmaster.pid"), "utf8").split("\n")[0]);
        process.kill(pid, "SIGKILL");
        await restartDatabase();
      }
      const after = await facts();
      expect(after.others).toBe(before.others);
      expect([0, ROWS]).toContain(after.own);
      // Whatever the job says comes from the same commit as the facts.
      let end = await ask<Job>(`/api/jobs/${job.id}`);
      for (let attempt = 0; !hasEnded(end) && attempt < 600; attempt += 1) {
        await wait(100);
        end = await ask<Job>(`/api/jobs/${job.id}`);
      }
      const final = await facts();
      expect([end.state === "done", final.own]).toEqual([final.own === ROWS, final.own === ROWS ? ROWS : 0]);
      outcomes.push(end.state);
      if (end.state === "done") {
        await send("POST", `/api/loads/${end.loadId}/undo`, {});
        draft = await bring();
      } else {
        expect(end.message).toMatch(/[Nn]othing|stopped|not answer/);
        const { broken } = await ask<LoadList>("/api/loads");
        expect(broken[0]).toMatchObject({ id: job.id, fileName: "ledger.csv", draftId: draft.id });
      }
    }
    // The moments lay where it hurts: some postings were broken off.
    expect(outcomes.filter((state) => state !== "done").length).toBeGreaterThan(KILLS / 6);
  });
});

describe("a server that is killed while a company is started or removed", () => {
  const NAME = "Brightwater";
  const company = {
    name: NAME,
    currency: "EUR",
    startMonth: 1,
    administrator: { name: "Ida Moor", email: "ida@brightwater.example", password: "a long password" },
  };
  const post = (path: string, body: unknown, own = "") =>
    fetch(origin() + path, {
      method: "POST",
      headers: { cookie: own, "content-type": "application/json" },
      body: JSON.stringify(body),
    }).catch(() => undefined);
  const cookiesOf = (answer: Response) =>
    answer.headers
      .getSetCookie()
      .map((set) => set.split(";")[0]!)
      .join("; ");
  /** What is left in the database: companies in the registry, and their schemas. */
  const left = async () => {
    const knex = connect(cluster.urlOf("hackle"), { poolSize: 1 });
    const { rows } = await knex.raw<{ rows: { registered: string[]; schemas: string[] }[] }>(
      `select (select coalesce(array_agg(schema order by schema), '{}') from hackle_companies.space) as registered,
         (select coalesce(array_agg(nspname::text order by nspname), '{}') from pg_namespace
          where nspname like 'company\\_%') as schemas`,
    );
    await knex.destroy();
    return rows[0]!;
  };
  const killAfter = async (ms: number) => {
    await wait(ms);
    server.child.kill("SIGKILL");
    await wait(100);
    await start();
  };

  /**
   * Starts the company, or signs in to it where it is there whole; the cookies of its administrator. What a dead server had
   * begun may be cleared away just now, and holds the name for as long.
   */
  const enter = async (): Promise<string> => {
    for (let attempt = 0; attempt < 100; attempt += 1) {
      const started = await post("/api/companies", company);
      if (started?.status === 200) return cookiesOf(started);
      const entered = await fetch(`${origin()}/api/companies/entered`, {
        method: "PUT",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ company: NAME.toLowerCase() }),
      }).catch(() => undefined);
      if (entered?.status === 200) {
        const { email, password } = company.administrator;
        const signedIn = await post("/api/session", { email, password }, cookiesOf(entered));
        if (signedIn?.status === 200) return `${cookiesOf(entered)}; ${cookiesOf(signedIn)}`;
      }
      await wait(200);
    }
    throw new Error("The company can neither be started nor entered.");
  };

  /** Removes what may be half removed: it is removed now, or not to be found any more. A server that has just begun may be busy. */
  const removeAgain = async (cookies: string) => {
    let said = "no answer";
    for (let attempt = 0; attempt < 100; attempt += 1) {
      const answer = await post("/api/company/remove", { name: NAME }, cookies);
      said = answer ? `${answer.status} ${await answer.text()}` : "no answer";
      if (/^(?:204|401|404)/.test(said)) return;
      await wait(200);
    }
    throw new Error(`The company can't be removed: ${said}`);
  };

  it("leaves it there whole, or its name free and nothing else behind", async () => {
    const before = performance.now();
    let cookies = await enter();
    const usual = performance.now() - before;
    for (let i = 0; i < STARTS; i += 1) {
      const share = (i + 0.5) / STARTS;
      const removing = post("/api/company/remove", { name: NAME }, cookies);
      await killAfter(share * 150);
      await removing;
      // It had not begun to be removed, and is now; or it goes on being so by itself.
      await removeAgain(cookies);
      await expect.poll(left, { timeout: 60_000 }).toEqual({ registered: [], schemas: [] });

      const starting = post("/api/companies", company);
      await killAfter(share * usual);
      await starting;
      cookies = await enter();
      const { registered, schemas } = await left();
      expect([registered.length, schemas]).toEqual([1, registered]);
    }
  });
});
