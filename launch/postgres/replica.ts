import { spawnSync } from "node:child_process";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { LaunchError } from "../progress.ts";
import { requireBinaries } from "./binaries.ts";
import { freePort, ownFor, reachableFolder, type Cluster } from "./cluster.ts";
import { idsOf, serverUser } from "./user.ts";

/** A server that follows a cluster and answers reading. */
export interface Replica {
  urlOf(database: string): string;
  stop(): void;
}

/** Copies a running cluster into a folder and lets the copy follow it, on a port of its own. */
export async function startReplica(cluster: Cluster, home: string): Promise<Replica> {
  const { folder: binaries } = requireBinaries();
  const user = serverUser();
  const base = reachableFolder(join(home, "replica"), user);
  mkdirSync(base, { recursive: true });
  ownFor(base, user);
  const data = join(base, "data");
  const run = (program: string, args: readonly string[], env: NodeJS.ProcessEnv = {}) => {
    // Its words go to a file: a server that keeps a pipe open would never let it end.
    const result = spawnSync(join(binaries, program), args, {
      cwd: "/",
      encoding: "utf8",
      env: { ...process.env, ...env },
      ...idsOf(user),
    });
    if (result.status !== 0) throw new LaunchError(`${program} could not make a replica in ${data}:\n${result.stderr}`);
  };
  const { hostname, port, username, password } = new URL(cluster.url);
  run("pg_basebackup", ["-D", data, "-R", "-c", "fast", "-h", hostname, "-p", port, "-U", username], {
    PGPASSWORD: decodeURIComponent(password),
  });
  const own = await freePort();
  const log = join(base, "postgres.log");
  run("pg_ctl", ["-D", data, "-w", "-t", "60", "-l", log, "-o", `-p ${own}`, "start"]);
  return {
    urlOf: (database) => cluster.urlOf(database).replace(`:${port}/`, `:${own}/`),
    stop: () => run("pg_ctl", ["-D", data, "-m", "fast", "-w", "stop"]),
  };
}
