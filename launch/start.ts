import { createServer } from "node:net";
import { join } from "node:path";
import { healthSchema } from "#contract/health.ts";
import { openDatabase } from "./database.ts";
import { openHome } from "./home.ts";
import { prepareDatabase } from "./prepare.ts";
import { LaunchError, runProgram, step } from "./progress.ts";
import { connect } from "#server/db/connect.ts";
import { registerFeeds, startService } from "./service-process.ts";
import { lockHome } from "./running.ts";
import { startServer } from "./server-process.ts";
import { superviseServer } from "./supervised-server.ts";
import { buildWeb } from "./web-build.ts";

const SUPERVISION_MS = 2000;

runProgram(async () => {
  const port = readPort();
  const host = process.env["HOST"] ?? "127.0.0.1";
  process.stdout.write("\n  Hackle\n\n");
  const home = openHome();
  await refuseTakenPort(host, port);
  const unlock = lockHome(home);
  const undo: (() => void | Promise<void>)[] = [unlock];
  let stopping: Promise<void> | undefined;
  const stop = (): Promise<void> =>
    (stopping ??= (async () => {
      for (const action of undo.reverse()) await action();
    })());
  const leave = (): void => {
    if (!stopping) process.stdout.write("\n  Stopping …\n");
    void stop().then(() => process.exit(0));
  };
  process.on("SIGINT", leave);
  process.on("SIGTERM", leave);
  process.on("SIGHUP", leave);

  try {
    const database = await step("Database", async () => {
      const opened = await openDatabase(home);
      return { value: opened, said: opened.said };
    });
    undo.push(() => database.stop());
    await prepareDatabase(database.url, { scale: readScale(), home });
    const service = await step("Ledger feed", async () => {
      const started = await startService();
      const knex = connect(database.url, { poolSize: 1 });
      await registerFeeds(knex, started.origin).finally(() => knex.destroy());
      return { value: started, said: `simulated at ${started.origin}` };
    });
    undo.push(() => service.stop());
    const webFolder = await buildWeb();
    const server = await step("Server", async () => ({
      value: await superviseServer(
        () => startServer({ databaseUrl: database.url, port, webFolder, filesFolder: join(home, "files") }),
        {
          say: (sentence) => void process.stdout.write(`  ${sentence}\n`),
          onGivenUp: () => void stop().then(() => process.exit(1)),
        },
      ),
      said: `listening on port ${port}`,
    }));
    undo.push(() => server.stop());
    const watch = setInterval(() => {
      if (stopping || !database.cluster?.hasCrashed()) return;
      process.stdout.write("  PostgreSQL died; starting it again …\n");
      database.cluster.restart();
    }, SUPERVISION_MS);
    undo.push(() => clearInterval(watch));
    process.stdout.write(
      `\n  Ready: http://${host}:${port}\n  Sign in with one click as a person of the sample company. Ctrl-C stops everything.\n\n`,
    );
  } catch (error) {
    await stop();
    throw error;
  }
});

function readPort(): number {
  const text = process.env["PORT"] ?? "4180";
  const port = Number(text);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new LaunchError(`PORT is "${text}"; it must be a whole number from 1 to 65535.`);
  return port;
}

function readScale(): number {
  const text = process.env["HACKLE_SCALE"] ?? "1";
  const scale = Number(text);
  if (!(scale >= 0.3 && scale <= 1000))
    throw new LaunchError(`HACKLE_SCALE is "${text}"; it must be a number from 0.3 to 1000.`);
  return scale;
}

async function refuseTakenPort(host: string, port: number): Promise<void> {
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
