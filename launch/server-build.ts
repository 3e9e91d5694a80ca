import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { PROJECT } from "./home.ts";
import { hashSources } from "./sources.ts";

const SOURCES = ["server", "core", "contract"];
/** A running product may still start threads from a build before the last one. */
const KEPT_BUILDS = 5;

/** The server as plain JavaScript, ready to run: a process or a thread of it starts in half the time. */
export interface ServerBuild {
  /** The program of a server process. */
  readonly main: string;
  /** Where the programs of its threads lie. */
  readonly threads: string;
}

/**
 * Builds the server unless that was done before, in a folder named by what its sources hold, so that two who build at
 * once do not meet. Packages stay outside and are found in the project's own folder.
 */
export async function buildServer(): Promise<ServerBuild> {
  const builds = join(PROJECT, ".hackle/server");
  const folder = join(builds, hashSources(SOURCES).hash.slice(0, 16));
  if (!existsSync(folder)) {
    const unfinished = `${folder}.${process.pid}`;
    mkdirSync(unfinished, { recursive: true });
    const { rolldown } = await import("rolldown");
    const bundle = await rolldown({
      cwd: PROJECT,
      platform: "node",
      input: {
        main: "./server/main.ts",
        "task-start": "./server/intake/jobs/task-program.ts",
        "engine-start": "./server/engine/engine.ts",
        "forecaster-start": "./server/versions/forecaster.ts",
      },
      external: (id) => !/^[.#/\0]/.test(id),
      logLevel: "warn",
    });
    await bundle.write({
      dir: unfinished,
      format: "esm",
      sourcemap: true,
      entryFileNames: "[name].mjs",
      chunkFileNames: "[name]-[hash].mjs",
    });
    await bundle.close();
    settle(unfinished, folder);
    removeOld(builds);
  }
  return { main: join(folder, "main.mjs"), threads: folder };
}

/** Moves a finished build to its place; where another was quicker, that one stays. */
function settle(unfinished: string, folder: string): void {
  try {
    renameSync(unfinished, folder);
  } catch (error) {
    rmSync(unfinished, { recursive: true, force: true });
    if (!existsSync(folder)) throw error;
  }
}

function removeOld(builds: string): void {
  const byAge = readdirSync(builds)
    .filter((name) => !name.includes("."))
    .map((name) => ({ path: join(builds, name), made: statSync(join(builds, name)).mtimeMs }))
    .sort((a, b) => b.made - a.made);
  for (const { path } of byAge.slice(KEPT_BUILDS)) rmSync(path, { recursive: true, force: true });
}
