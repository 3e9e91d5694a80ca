import { createHash } from "node:crypto";
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { PROJECT } from "./home.ts";

/** What a build depends on beside its own folders. */
const FILES = ["package-lock.json", "vite.config.ts", "tsconfig.json"];

/** A hash over all sources below the folders, and over the packages and settings they are built with. */
export function hashSources(folders: readonly string[]): { hash: string; files: number } {
  const hash = createHash("sha256");
  const files = [...FILES.map((f) => join(PROJECT, f)), ...folders.flatMap((s) => filesBelow(join(PROJECT, s)))].sort();
  for (const file of files) hash.update(file.slice(PROJECT.length)).update(readFileSync(file));
  return { hash: hash.digest("hex"), files: files.length };
}

function filesBelow(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    if (name === "dist" || /\.test\.tsx?$/.test(name)) return [];
    const path = join(folder, name);
    return statSync(path).isDirectory() ? filesBelow(path) : [path];
  });
}
