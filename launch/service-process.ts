import { spawn } from "node:child_process";
import { once } from "node:events";
import type { Knex } from "knex";
import { PROJECT } from "./home.ts";
import { LaunchError } from "./progress.ts";

/** Starts the simulated ledger and operations service as a process of its own. */
export async function startService(): Promise<{ origin: string; stop(): void }> {
  const child = spawn(process.execPath, ["--import", "tsx", "demo/service/main.ts"], {
    cwd: PROJECT,
    detached: true,
    stdio: ["ignore", "inherit", "inherit", "ipc"],
    env: { ...process.env, PORT: "0" },
  });
  const exited = once(child, "exit").then(() => {
    throw new LaunchError("The simulated ledger service did not start; its message is above.");
  });
  const [message] = (await Promise.race([once(child, "message"), exited])) as [{ port: number }];
  exited.catch(() => {});
  return { origin: `http://127.0.0.1:${message.port}`, stop: () => void child.kill("SIGTERM") };
}

/** Tells Hackle where its feeds are. What people set about them stays. */
export async function registerFeeds(knex: Knex, origin: string): Promise<void> {
  await knex("feed")
    .insert([
      { key: "ledger", name: "Ledger", url: `${origin}/ledger/extract`, dataset: "management-accounts" },
      { key: "operations", name: "Operations", url: `${origin}/operations/extract`, dataset: "daily-operations" },
    ])
    .onConflict("key")
    .merge(["url"]);
}
