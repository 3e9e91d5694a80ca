import { spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { PROJECT } from "./home.ts";
import { count } from "./prepare.ts";
import { LaunchError, step } from "./progress.ts";
import { hashSources } from "./sources.ts";

const SOURCES = ["web", "core", "contract"];

/** Builds the web client unless its sources are as they were. Returns the folder to serve. */
export async function buildWeb(): Promise<string> {
  const folder = join(PROJECT, "web/dist");
  const mark = join(folder, ".sources");
  return step("Web client", async () => {
    const { hash, files } = hashSources(SOURCES);
    if (existsSync(mark) && readFileSync(mark, "utf8") === hash)
      return { value: folder, said: `built already from ${count(files)} files` };
    await build();
    writeFileSync(mark, hash);
    return { value: folder, said: `built from ${count(files)} files` };
  });
}

/** In a process of its own: the builder takes memory that whoever asks for it, and goes on running, would keep. */
async function build(): Promise<void> {
  const vite = join(PROJECT, "node_modules/vite/bin/vite.js");
  const args = ["build", "--config", join(PROJECT, "vite.config.ts"), "--logLevel", "warn"];
  const child = spawn(process.execPath, [vite, ...args], { cwd: PROJECT, stdio: ["ignore", "inherit", "inherit"] });
  const [code] = (await once(child, "exit")) as [number | null];
  if (code !== 0) throw new LaunchError("The web client could not be built; the reason is above.");
}
