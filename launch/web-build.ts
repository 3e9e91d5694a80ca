import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { PROJECT } from "./home.ts";
import { count } from "./prepare.ts";
import { step } from "./progress.ts";
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
    // Only who builds needs the builder, which takes longer to load than all the rest of a start.
    const { build } = await import("vite");
    await build({ root: join(PROJECT, "web"), configFile: join(PROJECT, "vite.config.ts"), logLevel: "warn" });
    writeFileSync(mark, hash);
    return { value: folder, said: `built from ${count(files)} files` };
  });
}
