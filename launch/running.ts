import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { LaunchError } from "./progress.ts";

/** One launcher per data folder: two would stop each other's database. Returns how to let it go. */
export function lockHome(home: string): () => void {
  const holder = runningLauncher(home);
  if (holder !== undefined) {
    throw new LaunchError(
      `Hackle is running already from the data folder ${home} (process ${holder}). Stop that one, or choose another folder: HACKLE_HOME=/some/folder npm start`,
    );
  }
  const file = lockFile(home);
  writeFileSync(file, String(process.pid));
  return () => rmSync(file, { force: true });
}

/** The process that runs Hackle from a data folder; `undefined` when none does. */
export function runningLauncher(home: string): number | undefined {
  try {
    const pid = Number(readFileSync(lockFile(home), "utf8"));
    process.kill(pid, 0);
    // After a crash another program may have been given the number.
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").match(/launch\/(start|dev)\.ts/) ? pid : undefined;
  } catch {
    return undefined;
  }
}

function lockFile(home: string): string {
  return join(home, "launcher.pid");
}
