import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { build } from "vite";
import { PROJECT } from "./home.ts";
import { count } from "./prepare.ts";
import { step } from "./progress.ts";

const SOURCES = ["web", "core", "contract"];
const FILES = ["package-lock.json", "vite.config.ts", "tsconfig.json"];

/** Builds the web client unless its sources are as they were. Returns the folder to serve. */
export async function buildWeb(): Promise<string> {
  const folder = join(PROJECT, "web/dist");
  const mark = join(folder, ".sources");
  return step("Web client", async () => {
    const { hash, files } = hashSources();
    if (existsSync(mark) && readFileSync(mark, "utf8") === hash)
      return { value: folder, said: `built already from ${count(files)} files` };
    await build({ root: join(PROJECT, "web"), configFile: join(PROJECT, "vite.config.ts"), logLevel: "warn" });
    writeFileSync(mark, hash);
    return { value: folder, said: `built from ${count(files)} files` };
  });
}

function hashSources(): { hash: string; files: number } {
  const hash = createHash("sha256");
  const files = [...FILES.map((f) => join(PROJECT, f)), ...SOURCES.flatMap((s) => filesBelow(join(PROJECT, s)))].sort();
  for (const file of files) hash.update(file.slice(PROJECT.length)).update(readFileSync(file));
  return { hash: hash.digest("hex"), files: files.length };
}

function filesBelow(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    if (name === "dist" || name.endsWith(".test.ts")) return [];
    const path = join(folder, name);
    return statSync(path).isDirectory() ? filesBelow(path) : [path];
  });
}
