import { join } from "node:path";

/**
 * The program of a thread: as built with the server, where `HACKLE_THREADS` says so, or else the one beside the module
 * that starts it, which reads the sources.
 */
export function threadProgram(name: `${string}-start.mjs`, startedBy: string): string | URL {
  const built = process.env["HACKLE_THREADS"];
  return built === undefined ? new URL(`./${name}`, startedBy) : join(built, name);
}
