import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { hasEnded } from "#core/checks/job-state.ts";
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
      HACKLE_SCALE: "0.3",
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

const pause = () => new Promise((resolve) => setTimeout(resolve, 50));
const postmaster = (output: string) => Number(/(\d+)/.exec(readCluster(output, "postmaster.pid"))![1]);

describe("npm start", () => {
  let product: Start;

  it("brings everything up with figures on each step, and refuses a second one", async () => {
    product = start();
    await product.until("Ready:");
    expect(product.output()).toMatch(/new cluster on port \d+/);
    expect(product.output()).toMatch(/\d[\d,]+ rows generated and posted in 97 loads/);
    expect(await isHealthy()).toBe(true);

    const onSamePort = start();
    const inSameFolder = start({ PORT: String(await freePort()) });
    expect([await onSamePort.ended(), await inSameFolder.ended()]).toEqual([1, 1]);
    expect(onSamePort.output()).toContain(`Hackle is running already: http://127.0.0.1:${port}`);
    expect(inSameFolder.output()).toMatch(/running already from the data folder .* \(process \d+\)/);
  });

  it("starts a server and a PostgreSQL that died again", async () => {
    await killServer(product.child.pid!);
    await product.until("The server died (SIGKILL); starting it again …");
    process.kill(postmaster(product.output()), "SIGKILL");
    await product.until("PostgreSQL died");
    await product.until("The server is back.");
    while (!(await isHealthy())) await pause();
  });

  it("restores the sample only when asked twice while it runs, and never over loads that are not the sample's", async () => {
    const unsure = start({}, "reset", []);
    expect(await unsure.ended()).toBe(1);
    expect(unsure.output()).toMatch(/Hackle is running \(process \d+\): .* npm run demo:reset -- --yes/);

    let cookie = "";
    const ask = async <T>(method: string, path: string, body?: string, type = "application/json") => {
      const response = await fetch(`http://127.0.0.1:${port}${path}`, {
        method,
        headers: { cookie, "content-type": type },
        ...(body === undefined ? {} : { body }),
      });
      cookie = response.headers.get("set-cookie")?.split(";")[0] ?? cookie;
      return (await response.json()) as T;
    };
    await ask("POST", "/api/session/sample", JSON.stringify({ email: ANALYST }));
    const file = "Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,5\n";
    let draft = await ask<Draft>("POST", "/api/drafts?name=own.csv", file, "application/octet-stream");
    while (draft.job && !hasEnded(draft.job)) draft = await ask<Draft>("GET", `/api/drafts/${draft.id}`);
    let job = await ask<Job>("POST", `/api/drafts/${draft.id}/post`, JSON.stringify({ version: draft.version }));
    while (!hasEnded(job)) job = await ask<Job>("GET", `/api/jobs/${job.id}`);
    expect(job.state).toBe("done");
    const kept = start({}, "reset", ["--yes"]);
    expect(await kept.ended()).toBe(1);
    expect(kept.output()).toContain("A load was posted that is not the sample's: own.csv (Maren Holt).");
    await ask("POST", `/api/loads/${job.loadId}/undo`, "{}");
    const sure = start({}, "reset", ["--yes"]);
    expect(await sure.ended()).toBe(0);
    expect(sure.output()).toMatch(/posted in 97 loads/);
  });

  it("recovers after a crash of the launcher, and Ctrl-C takes everything down", async () => {
    product.child.kill("SIGKILL");
    await product.ended();
    // The server notices that nobody holds it any more and goes; PostgreSQL stays for the next start.
    while (await isHealthy()) await pause();

    const again = start();
    await again.until("Ready:");
    expect(again.output()).toContain("there already");
    expect(again.output()).toContain("up to date");
    expect(again.output()).toContain("found running on port");
    const database = postmaster(again.output());
    again.child.kill("SIGINT");
    expect(await again.ended()).toBe(0);
    expect(isAlive(database)).toBe(false);
    expect(await isHealthy()).toBe(false);
    expect(existsSync(join(home, "launcher.pid"))).toBe(false);
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
    const attempts = [
      [{ HACKLE_HOME: join(blocked, "home") }, `The data folder ${join(blocked, "home")} cannot be written`],
      [{ HACKLE_HOME: "/proc/hackle" }, "The data folder /proc/hackle cannot be written"],
      [{ PORT: "eighty" }, 'PORT is "eighty"; it must be a whole number from 1 to 65535.'],
      [{ DATABASE_URL: "postgres://hackle:x@127.0.0.1:1/none" }, "The database at DATABASE_URL does not answer"],
    ].map(([env, sentence]) => ({ attempt: start(env as Record<string, string>), sentence: sentence as string }));
    for (const { attempt, sentence } of attempts) {
      expect(await attempt.ended(), sentence).toBe(1);
      expect(attempt.output()).toContain(sentence);
      expect(attempt.output()).not.toContain("    at ");
    }
  });
});

/** Kills the server below a launcher, as the kernel does when memory runs out. */
async function killServer(launcher: number): Promise<void> {
  const children = readFileSync(`/proc/${launcher}/task/${launcher}/children`, "utf8").trim().split(" ").map(Number);
  const server = children.find((pid) => readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("main.mjs"));
  if (server === undefined) throw new Error("the launcher has no server");
  process.kill(server, "SIGKILL");
  while (isAlive(server)) await new Promise((resolve) => setTimeout(resolve, 20));
}

/** A file of the cluster, in the data folder or where it was moved because PostgreSQL's user cannot enter there. */
function readCluster(output: string, file: string): string {
  const folder = /the cluster is in (\S+)/.exec(output)?.[1] ?? join(home, "postgres");
  return readFileSync(join(folder, "data", file), "utf8");
}
