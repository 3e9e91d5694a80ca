import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Draft, Job } from "#contract/intake.ts";
import { ANALYST } from "#testing/api.ts";
import { PROJECT } from "./home.ts";
import { freePort } from "./postgres/cluster.ts";

/** A start of its own: `npm start` without npm, in a data folder of its own. */
interface Start {
  readonly child: ChildProcess;
  output(): string;
  /** Waits until the output has the text, or the process has ended. */
  until(text: string): Promise<void>;
  ended(): Promise<number | null>;
}

let home: string;
let port: number;
const running: ChildProcess[] = [];
beforeAll(async () => {
  home = mkdtempSync(join(tmpdir(), "hackle-launch-"));
  port = await freePort();
});
afterAll(async () => {
  for (const child of running)
    if (child.exitCode === null && child.signalCode === null) {
      child.kill("SIGINT");
      await once(child, "exit");
    }
  rmSync(home, { recursive: true, force: true });
});

function start(env: Record<string, string> = {}, program = "start", args: readonly string[] = []): Start {
  const child = spawn(process.execPath, ["--import", "tsx", `launch/${program}.ts`, ...args], {
    cwd: PROJECT,
    stdio: ["ignore", "pipe", "pipe"],
    env: {
      ...process.env,
      PORT: String(port),
      HACKLE_HOME: home,
      HACKLE_SCALE: "0.34",
      NODE_ENV: "production",
      ...env,
    },
  });
  running.push(child);
  let output = "";
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk: Buffer) => (output += chunk.toString()));
  const exit = once(child, "exit");
  return {
    child,
    output: () => output,
    until: async (text) => {
      while (!output.includes(text)) {
        if (child.exitCode !== null) throw new Error(`ended without "${text}":\n${output}`);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    },
    ended: async () => ((await exit) as [number | null])[0],
  };
}

const isHealthy = async (at = port) =>
  (
    await fetch(`http://127.0.0.1:${at}/api/health`)
      .then((r) => r.json() as Promise<{ ready: boolean }>)
      .catch(() => ({ ready: false }))
  ).ready;
const isAlive = (pid: number) => {
  try {
    process.kill(pid, 0);
    return !readFileSync(`/proc/${pid}/stat`, "utf8").includes(") Z ");
  } catch {
    return false;
  }
};

describe("npm start", () => {
  it("brings everything up with figures on each step, refuses a second one, and Ctrl-C takes everything down", async () => {
    const first = start();
    await first.until("Ready:");
    expect(first.output()).toMatch(/new cluster on port \d+/);
    expect(first.output()).toMatch(/\d[\d,]+ rows generated and posted in 97 loads/);
    expect(await isHealthy()).toBe(true);

    const second = start();
    expect(await second.ended()).toBe(1);
    expect(second.output()).toContain(`Hackle is running already: http://127.0.0.1:${port}`);
    const third = start({ PORT: String(await freePort()) });
    expect(await third.ended()).toBe(1);
    expect(third.output()).toMatch(/running already from the data folder .* \(process \d+\)/);

    const postmaster = Number(/(\d+)/.exec(readCluster(first.output(), "postmaster.pid"))![1]);
    first.child.kill("SIGINT");
    expect(await first.ended()).toBe(0);
    expect(isAlive(postmaster)).toBe(false);
    expect(await isHealthy()).toBe(false);
    expect(existsSync(join(home, "launcher.pid"))).toBe(false);
  });

  it("recovers after a crash of the launcher, and of PostgreSQL while it runs", async () => {
    const first = start();
    await first.until("Ready:");
    expect(first.output()).toContain("there already");
    expect(first.output()).toContain("up to date");
    first.child.kill("SIGKILL");
    await first.ended();
    // The server notices that nobody holds it any more and goes; PostgreSQL stays for the next start.
    while (await isHealthy()) await new Promise((resolve) => setTimeout(resolve, 50));

    const again = start();
    await again.until("Ready:");
    expect(again.output()).toContain("found running on port");
    process.kill(Number(/(\d+)/.exec(readCluster(again.output(), "postmaster.pid"))![1]), "SIGKILL");
    await again.until("PostgreSQL died");
    while (!(await isHealthy())) await new Promise((resolve) => setTimeout(resolve, 100));
    await killServer(again.child.pid!);
    await again.until("The server died (SIGKILL); starting it again …");
    await again.until("The server is back.");
    expect(await isHealthy()).toBe(true);
    again.child.kill("SIGTERM");
    expect(await again.ended()).toBe(0);
  });

  it("restores the sample only when asked twice while it runs, and never over loads that are not the sample's", async () => {
    const product = start();
    await product.until("Ready:");
    const refused = start({}, "reset", []);
    expect(await refused.ended()).toBe(1);
    expect(refused.output()).toMatch(/Hackle is running \(process \d+\): .* npm run demo:reset -- --yes/);
    const sure = start({}, "reset", ["--yes"]);
    expect(await sure.ended()).toBe(0);
    expect(sure.output()).toMatch(/posted in 97 loads/);

    const signedIn = await fetch(`http://127.0.0.1:${port}/api/session/sample`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ email: ANALYST }),
    });
    const cookie = signedIn.headers.get("set-cookie")!.split(";")[0]!;
    const ask = async <T>(method: string, path: string, body?: string, type = "application/json") =>
      (await (
        await fetch(`http://127.0.0.1:${port}${path}`, {
          method,
          headers: { cookie, "content-type": type },
          ...(body === undefined ? {} : { body }),
        })
      ).json()) as T;
    const file = "Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,5\n";
    let draft = await ask<Draft>("POST", "/api/drafts?name=own.csv", file, "application/octet-stream");
    while (draft.job?.state === "running") draft = await ask<Draft>("GET", `/api/drafts/${draft.id}`);
    let job = await ask<Job>("POST", `/api/drafts/${draft.id}/post`, JSON.stringify({ version: draft.version }));
    while (job.state === "running") job = await ask<Job>("GET", `/api/jobs/${job.id}`);
    expect(job.state).toBe("done");
    const kept = start({}, "reset", ["--yes"]);
    expect(await kept.ended()).toBe(1);
    expect(kept.output()).toContain("A load was posted that is not the sample's: own.csv (Maren Holt).");
    await ask("POST", `/api/loads/${job.loadId}/undo`, "{}");
    const undone = start({}, "reset", ["--yes"]);
    expect(await undone.ended()).toBe(0);
    product.child.kill("SIGINT");
    expect(await product.ended()).toBe(0);
  });

  it("says in words what stands in its way", async () => {
    const other = createServer().listen(0, "127.0.0.1");
    await once(other, "listening");
    const taken = String((other.address() as { port: number }).port);
    const onTaken = start({ PORT: taken });
    expect(await onTaken.ended()).toBe(1);
    expect(onTaken.output()).toContain(
      `Port ${taken} is in use by another program. Choose another: PORT=${Number(taken) + 1} npm start`,
    );
    other.close();

    const blocked = join(home, "a-file");
    writeFileSync(blocked, "");
    for (const [env, sentence] of [
      [{ HACKLE_HOME: join(blocked, "home") }, `The data folder ${join(blocked, "home")} cannot be written`],
      [{ HACKLE_HOME: "/proc/hackle" }, "The data folder /proc/hackle cannot be written"],
      [{ PORT: "eighty" }, 'PORT is "eighty"; it must be a whole number from 1 to 65535.'],
      [{ DATABASE_URL: "postgres://hackle:x@127.0.0.1:1/none" }, "The database at DATABASE_URL does not answer"],
    ] as const) {
      const attempt = start(env);
      expect(await attempt.ended(), sentence).toBe(1);
      expect(attempt.output()).toContain(sentence);
      expect(attempt.output()).not.toContain("    at ");
    }
  });
});

/** Kills the server below a launcher, as the kernel does when memory runs out. */
async function killServer(launcher: number): Promise<void> {
  const children = readFileSync(`/proc/${launcher}/task/${launcher}/children`, "utf8").trim().split(" ").map(Number);
  const server = children.find((pid) => readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("server/main.ts"));
  if (server === undefined) throw new Error("the launcher has no server");
  process.kill(server, "SIGKILL");
  while (isAlive(server)) await new Promise((resolve) => setTimeout(resolve, 20));
}

/** A file of the cluster, in the data folder or where it was moved because PostgreSQL's user cannot enter there. */
function readCluster(output: string, file: string): string {
  const folder = /the cluster is in (\S+)/.exec(output)?.[1] ?? join(home, "postgres");
  return readFileSync(join(folder, "data", file), "utf8");
}
