import { createServer } from "node:net";
import { healthSchema } from "#contract/health.ts";
import { LaunchError } from "./progress.ts";

/** Where Hackle listens, by PORT. Throws a `LaunchError` for what is no port. */
export function readPort(): number {
  const text = process.env["PORT"] ?? "4180";
  const port = Number(text);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new LaunchError(`PORT is "${text}"; it must be a whole number from 1 to 65535.`);
  return port;
}

/** Refuses a port that somebody listens on, saying who where it can be told. */
export async function refuseTakenPort(host: string, port: number): Promise<void> {
  const problem = await new Promise<NodeJS.ErrnoException | undefined>((resolve) => {
    const probe = createServer();
    probe.once("error", (error) => resolve(error));
    probe.listen(port, host, () => probe.close(() => resolve(undefined)));
  });
  if (!problem) return;
  if (problem.code === "EACCES")
    throw new LaunchError(`Port ${port} may not be opened by this user. Choose one above 1023: PORT=4181 npm start`);
  const health = await fetch(`http://${host}:${port}/api/health`, { signal: AbortSignal.timeout(2000) })
    .then((r) => r.json() as Promise<unknown>)
    .catch(() => undefined);
  if (healthSchema.safeParse(health).success) {
    throw new LaunchError(
      `Hackle is running already: http://${host}:${port}\n  A second one needs a port and a data folder of its own: PORT=${port + 1} HACKLE_HOME=/some/folder npm start`,
    );
  }
  throw new LaunchError(`Port ${port} is in use by another program. Choose another: PORT=${port + 1} npm start`);
}
