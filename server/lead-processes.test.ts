import { mkdtempSync, rmSync } from "node:fs";
import { Agent, get } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import type { Health } from "#contract/health.ts";
import { freePort } from "#launch/postgres/cluster.ts";
import { startServer, type ServerProcess } from "#launch/server-process.ts";

const folder = mkdtempSync(join(tmpdir(), "hackle-processes-"));
let server: ServerProcess;
let port = 0;
beforeAll(async () => {
  port = await freePort();
  server = await startServer({
    databaseUrl: inject("sampleUrl"),
    port,
    webFolder: folder,
    filesFolder: folder,
    quiet: true,
    logLevel: "silent",
    environment: { HACKLE_PROCESSES: "2", HACKLE_ENGINES: "0" },
  });
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Asks over a connection of its own, which whichever process is next takes; `null` where it is broken off. */
const health = () =>
  new Promise<Health | null>((resolve) => {
    // What was handed to a process just when it died is answered by nobody.
    get({ port, path: "/api/health", agent: new Agent(), timeout: 1000 }, (answer) => {
      let text = "";
      answer.setEncoding("utf8").on("data", (part: string) => (text += part));
      answer.on("end", () => resolve(JSON.parse(text) as Health));
    })
      .on("timeout", () => resolve(null))
      .on("error", () => resolve(null));
  });
async function processes(): Promise<Set<number>> {
  const answers = await Promise.all(Array.from({ length: 20 }, health));
  return new Set(answers.flatMap((answer) => answer?.process ?? []));
}

it("processes of which none comes to listen end with their leader, whose message says why", async () => {
  const begun = startServer({
    databaseUrl: "",
    port,
    webFolder: folder,
    filesFolder: folder,
    quiet: true,
    environment: { HACKLE_PROCESSES: "2", HACKLE_MEMORY: "much" },
  });
  await expect(begun).rejects.toThrow("did not start");
});

it("several processes share the port; one that dies is replaced while the others serve", async () => {
  // On a busy machine one process may be late to take its first call.
  let before = await processes();
  while (before.size < 2) before = await processes();
  expect(before.has(server.child.pid!)).toBe(false);
  const [one] = before;
  process.kill(one!, "SIGKILL");
  let after = await processes();
  while (after.has(one!)) after = await processes();
  expect(after.size).toBeGreaterThan(0);
  while (after.size < 2) {
    await wait(50);
    after = await processes();
  }
  expect(after.has(one!)).toBe(false);
});
