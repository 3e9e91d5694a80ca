import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { join } from "node:path";
import { PROJECT } from "./home.ts";
import { LaunchError } from "./progress.ts";
import { buildServer } from "./server-build.ts";

/** A running Hackle server. */
export interface ServerProcess {
  readonly child: ChildProcess;
  stop(): Promise<void>;
}

/** Starts the server as a process of its own and waits until it listens. */
export async function startServer({
  databaseUrl,
  port,
  webFolder,
  filesFolder,
  program = "built",
  quiet = false,
  logLevel = "warn",
  environment = {},
}: {
  databaseUrl: string;
  port: number;
  webFolder: string;
  /** Where uploaded files are kept. */
  filesFolder: string;
  /** The server as built from its sources, or the sources as they are, which starts later and builds nothing. */
  program?: "built" | "sources";
  quiet?: boolean;
  logLevel?: string;
  environment?: Readonly<Record<string, string>>;
}): Promise<ServerProcess> {
  const main =
    program === "built"
      ? ["--enable-source-maps", (await buildServer()).main]
      : ["--import", "tsx", join(PROJECT, "server/main.ts")];
  const child = spawn(process.execPath, main, {
    cwd: PROJECT,
    // A group of its own: Ctrl-C reaches the launcher, which stops things in order.
    detached: true,
    stdio: ["ignore", quiet ? "ignore" : "inherit", "inherit", "ipc"],
    env: {
      LOG_LEVEL: logLevel,
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      HACKLE_WEB: webFolder,
      HACKLE_FILES: filesFolder,
      ...environment,
    },
  });
  const listening = once(child, "message");
  const exited = once(child, "exit").then(() => {
    throw new LaunchError(`The server did not start on port ${port}; its message is above.`);
  });
  await Promise.race([listening, exited]);
  exited.catch(() => {});
  return {
    child,
    stop: async () => {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const gone = once(child, "exit");
      child.kill("SIGTERM");
      const force = setTimeout(() => child.kill("SIGKILL"), 5000);
      await gone;
      clearTimeout(force);
    },
  };
}
