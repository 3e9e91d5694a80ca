import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { Agent, request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { formatMonth, monthOf } from "#core/calendar/month.ts";
import { ANALYST } from "#testing/api.ts";
import { Latencies } from "./latencies.ts";
import { createSampleDatabase } from "./sample-database.ts";
import { freePort, type Cluster } from "../launch/postgres/cluster.ts";
import { pagesReady } from "./pages-ready.ts";
import { startServer } from "../launch/server-process.ts";

const READERS = 100;
const SECONDS = Number(process.env["HACKLE_BENCH_SECONDS"] ?? 60);
const PAGES = [
  "cover",
  "at-a-glance",
  "routes",
  "revenue",
  "costs-and-fuel",
  "operations",
  "outlook",
  "areas",
  "skerry-sound",
  "lantern-bay",
  "northreach",
  "appendix",
] as const;
const SPANS = ["month", "quarter", "quarter-to-date", "year-to-date", "full-year", "trailing-12"] as const;
const BASES = ["budget", "forecast", "prior-year", "prior-period"] as const;
const SCOPES = ["", "route:skerry-sound", "route:lantern-bay", "route:northreach"] as const;
const HEALTH_MS = 250;

/** Somebody who looks at a page stays with it for a second on average: for none to twice as long. */
const PAUSE_MS = 2000;

/**
 * A hundred readers at once with frames drawn at random, hasty ones and ones that never stop to look: how long they
 * wait, whether health still answers, and whether memory stays where it is. The readers run on the same machine as the
 * server, and take their share of it.
 */
export async function benchReaders(cluster: Cluster): Promise<void> {
  const databaseUrl = await createSampleDatabase(cluster, "bench_readers");
  const files = mkdtempSync(join(tmpdir(), "hackle-bench-"));
  const port = await freePort();
  const server = await startServer({
    databaseUrl,
    port,
    webFolder: files,
    filesFolder: files,
  });
  try {
    const client = new Client(port);
    await client.signIn();
    await measureUnasked(client);
    await pagesReady(cluster.urlOf("bench_readers"));
    await readAll(client, server.child.pid!);
  } finally {
    await server.stop();
    rmSync(files, { recursive: true, force: true });
  }
}

/** Each page in a scope that nobody asked before, on a server that has just started: how long the slowest takes. */
async function measureUnasked(client: Client): Promise<void> {
  let slowest = { page: "", ms: 0 };
  for (const page of PAGES) {
    const start = performance.now();
    await client.ask("GET", `/api/packs/monthly-review/pages/${page}/answers?scope=route:vardel-isenholm`);
    const ms = performance.now() - start;
    if (ms > slowest.ms) slowest = { page, ms };
  }
  console.log(
    `\na scope nobody asked before, server just up: ${slowest.page} takes longest, ${slowest.ms.toFixed(0)} ms`,
  );
}

async function readAll(client: Client, pid: number): Promise<void> {
  const random = drawFrom(1);
  console.log(`\nreaders, random frames of ${PAGES.length} pages`);
  for (const [label, seconds, readers, pause] of [
    ["one reader, no pause", 5, 1, 0],
    [`${READERS} readers, a second a page, server just up`, 10, READERS, PAUSE_MS],
    [`${READERS} readers, a second a page`, SECONDS, READERS, PAUSE_MS],
    [`${READERS} readers, no pause: as fast as it can`, SECONDS / 2, READERS, 0],
  ] as const) {
    const memory = [memoryOf(pid)];
    const watch = setInterval(() => memory.push(memoryOf(pid)), (seconds * 1000) / 4);
    const { answers, health, errors } = await client.read({ readers, seconds, pause, random });
    clearInterval(watch);
    console.log(
      `  ${label.padEnd(46)} ${(answers.count / seconds).toFixed(0).padStart(4)} pages/s   ` +
        `median ${answers.at(0.5).toFixed(0)} ms   p95 ${answers.at(0.95).toFixed(0)} ms   ` +
        `health p95 ${health.at(0.95).toFixed(0)} ms   errors ${errors}   ` +
        `memory ${memory.map((mebibytes) => mebibytes.toFixed(0)).join(" → ")} MiB`,
    );
  }
}

class Client {
  private agent = new Agent({ keepAlive: true });
  private cookie = "";

  constructor(private readonly port: number) {}

  async signIn(): Promise<void> {
    const { cookie } = await this.ask("POST", "/api/session/sample", JSON.stringify({ email: ANALYST }));
    this.cookie = cookie;
  }

  async read({
    readers,
    seconds,
    pause,
    random,
  }: {
    readers: number;
    seconds: number;
    pause: number;
    random: () => number;
  }) {
    const [answers, health] = [new Latencies(), new Latencies()];
    // What lay idle meanwhile may be closed by the server just when it is used again.
    this.agent.destroy();
    this.agent = new Agent({ keepAlive: true });
    const until = performance.now() + seconds * 1000;
    let errors = 0;
    const reader = async () => {
      while (performance.now() < until) {
        const start = performance.now();
        const { status } = await this.ask("GET", addressOf(random));
        if (status === 200) answers.add(performance.now() - start);
        else errors += 1;
        if (pause > 0) await new Promise((resolve) => setTimeout(resolve, random() * pause));
      }
    };
    const watch = async () => {
      while (performance.now() < until) {
        const start = performance.now();
        await this.ask("GET", "/api/health");
        health.add(performance.now() - start);
        await new Promise((resolve) => setTimeout(resolve, HEALTH_MS));
      }
    };
    await Promise.all([...Array.from({ length: readers }, reader), watch()]);
    return { answers, health, errors };
  }

  /** Takes an answer compressed as it comes, and does nothing with it. */
  ask(method: string, path: string, body?: string): Promise<{ status: number; cookie: string }> {
    return new Promise((resolve, reject) => {
      const headers = { cookie: this.cookie, "accept-encoding": "gzip", "content-type": "application/json" };
      const sent = request(
        { host: "127.0.0.1", port: this.port, method, path, headers, agent: this.agent },
        (answer) => {
          answer.resume();
          answer.once("end", () =>
            resolve({
              status: answer.statusCode ?? 0,
              cookie: answer.headers["set-cookie"]?.[0]?.split(";")[0] ?? this.cookie,
            }),
          );
          answer.once("error", reject);
        },
      );
      sent.once("error", reject);
      sent.end(body);
    });
  }
}

function addressOf(random: () => number): string {
  const draw = <T>(choices: readonly T[]): T => choices[Math.floor(random() * choices.length)]!;
  const query = new URLSearchParams({
    asOf: formatMonth(monthOf(2026, 10) - Math.floor(random() * 24)),
    span: draw(SPANS),
    basis: draw(BASES),
    scope: draw(SCOPES),
  });
  return `/api/packs/monthly-review/pages/${draw(PAGES)}/answers?${query.toString()}`;
}

/** Numbers from 0 to 1 that are the same in every run (a linear congruential generator). */
function drawFrom(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** Resident memory in MiB, where the system tells it. */
function memoryOf(pid: number): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]) / 1024;
  } catch {
    return Number.NaN;
  }
}
