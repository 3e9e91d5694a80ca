import { spawn } from "node:child_process";
import { once } from "node:events";
import { join } from "node:path";
import { PROJECT } from "./home.ts";
import { LaunchError } from "./progress.ts";

/** What loading the sample company brought. */
interface LoadedSample {
  readonly loads: number;
  readonly rows: number;
}

/** Loads the sample company in a process of its own: generating it takes memory that a launcher would keep for good. */
export async function loadSampleApart(databaseUrl: string, scale: number): Promise<LoadedSample> {
  const program = ["--import", "tsx", join(PROJECT, "launch/load-sample.ts"), databaseUrl, String(scale)];
  const child = spawn(process.execPath, program, { cwd: PROJECT, stdio: ["ignore", "inherit", "inherit", "ipc"] });
  let loaded: LoadedSample | undefined;
  child.on("message", (message) => (loaded = message as LoadedSample));
  const [code] = (await once(child, "exit")) as [number | null];
  if (code !== 0 || !loaded) throw new LaunchError("The sample company could not be loaded; the reason is above.");
  return loaded;
}
