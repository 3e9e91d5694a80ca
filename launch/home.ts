import { accessSync, constants, existsSync, mkdirSync, writeFileSync, rmSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { LaunchError } from "./progress.ts";

/** The project's folder. */
export const PROJECT = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");

/** The data folder: HACKLE_HOME, or `.hackle` in the project. Made if missing; refused in words when it cannot be written. */
export function openHome(folder: string = process.env["HACKLE_HOME"] ?? join(PROJECT, ".hackle")): string {
  const home = resolve(folder);
  try {
    makeFolder(home);
    accessSync(home, constants.W_OK);
    const probe = join(home, ".probe");
    writeFileSync(probe, "");
    rmSync(probe);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? String(error);
    const who = process.getuid ? ` by user ${process.getuid()}` : "";
    throw new LaunchError(
      `The data folder ${home} cannot be written${who} (${code}). Give it write permission, or choose another: HACKLE_HOME=/some/folder npm start`,
    );
  }
  return home;
}

/** Makes a folder and those above it, one by one: Node's own recursive way never returns from places like /proc. */
function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder));
  mkdirSync(folder);
}
