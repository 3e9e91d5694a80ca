import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Draft, Job } from "#contract/intake.ts";
import type { LoadDetail } from "#contract/loads.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { timed } from "../bench/timing.ts";
import { uploadFile } from "../bench/loading.ts";
import { createDatabase } from "./database.ts";
import { freePort, type Cluster } from "./postgres/cluster.ts";
import { startServer, type ServerProcess } from "./server-process.ts";

const ADMINISTRATOR = { name: "Ida Moor", email: "ida@brightwater.example", password: "a long password" };
const LOOK_MS = 100;

/** Somebody who speaks to a server as a company's administrator. */
export interface CompanyClient {
  get<T>(path: string): Promise<T>;
  text(path: string): Promise<string>;
  send<T>(method: string, path: string, body: unknown): Promise<T>;
  /** The status of an answer that is read to its end. */
  status(method: string, path: string, body?: unknown): Promise<number>;
  /** Uploads a file, checks it as it is understood, posts it and waits for what follows; `told`: its progress as it was told. */
  post(file: string): Promise<{ checkMs: number; postMs: number; followMs: number; told: readonly number[] }>;
}

/** A company that was just started, on a server and a database of its own. */
export interface EmptyCompany extends CompanyClient {
  readonly url: string;
  readonly knex: Knex;
  readonly server: ServerProcess;
  /** The schema that its tables are in. */
  readonly schema: string;
  readonly origin: string;
  /** A folder for the bench's files, which goes with the company. */
  readonly folder: string;
}

/** Starts an empty company, does some work with it, and clears all of it away. */
export async function withEmptyCompany(
  cluster: Cluster,
  database: string,
  work: (company: EmptyCompany) => Promise<void>,
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const admin = connect(cluster.url, { poolSize: 1 });
  await admin.raw("drop database if exists ?? with (force)", [database]);
  await createDatabase(cluster, database);
  const url = cluster.urlOf(database);
  const knex = connect(url, { poolSize: 2 });
  await migrate(knex);
  const port = await freePort();
  const server = await startServer({
    databaseUrl: url,
    port,
    webFolder: folder,
    filesFolder: join(folder, "files"),
    quiet: true,
    environment: { HACKLE_SAMPLE: "off" },
  });
  try {
    const origin = `http://127.0.0.1:${port}`;
    const client = await startCompanyOn(origin, "Brightwater");
    const space = await knex("hackle_companies.space").first<{ schema: string }>("schema");
    await work({ url, knex, server, schema: space.schema, folder, origin, ...client });
  } finally {
    await server.stop();
    await knex.destroy();
    await admin.raw("drop database ?? with (force)", [database]);
    await admin.destroy();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Starts a company on a server and speaks for its administrator. */
export async function startCompanyOn(origin: string, name: string): Promise<CompanyClient> {
  const json = { "content-type": "application/json" };
  const company = { name, currency: "EUR", startMonth: 1, administrator: ADMINISTRATOR };
  const started = await fetch(`${origin}/api/companies`, {
    method: "POST",
    headers: json,
    body: JSON.stringify(company),
  });
  const cookies = started.headers.getSetCookie().map((set) => set.split(";")[0]!);
  const headers = { cookie: cookies.join("; ") };
  const text = async (path: string) => (await fetch(origin + path, { headers })).text();
  const get = async <T>(path: string) => JSON.parse(await text(path)) as T;
  const send = async <T>(method: string, path: string, body: unknown) => {
    const sent = { method, headers: { ...headers, ...json }, body: JSON.stringify(body) };
    return (await (await fetch(origin + path, sent)).json()) as T;
  };
  const status = async (method: string, path: string, body?: unknown) => {
    const sent = body === undefined ? {} : { body: JSON.stringify(body) };
    const answer = await fetch(origin + path, { method, headers: { ...headers, ...json }, ...sent });
    await answer.arrayBuffer();
    return answer.status;
  };
  const pause = () => new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  const post: CompanyClient["post"] = async (file) => {
    const told: number[] = [];
    const ended = async (job: Job) => {
      while (!hasEnded(job)) {
        await pause();
        job = await get<Job>(`/api/jobs/${job.id}`);
        if (job.kind === "post") told.push(job.share);
      }
      if (job.state !== "done") throw new Error(job.message ?? job.state);
      return job;
    };
    const uploaded = await uploadFile(`${origin}/api/drafts?name=sales.csv`, file, headers);
    const check = await timed(() => ended(uploaded.job!));
    const draft = await get<Draft>(`/api/drafts/${uploaded.id}`);
    if (!draft.report?.mayPost) throw new Error(JSON.stringify(draft.report?.findings ?? draft.mappingProblems));
    const posted = await timed(async () =>
      ended(await send<Job>("POST", `/api/drafts/${draft.id}/post`, { version: draft.version })),
    );
    const followed = await timed(async () => {
      while (!(await get<LoadDetail>(`/api/loads/${posted.value.loadId}`)).isFollowedUp) await pause();
    });
    return { checkMs: check.ms, postMs: posted.ms, followMs: followed.ms, told };
  };
  return { get, text, send, status, post };
}
