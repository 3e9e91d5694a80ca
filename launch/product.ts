import { connect } from "#server/db/connect.ts";
import { openDatabase, type Database } from "./database.ts";
import { offersSample, prepareDatabase } from "./prepare.ts";
import { LaunchError, step } from "./progress.ts";
import { registerFeeds, startService } from "./service-process.ts";
import { superviseCluster } from "./supervised-cluster.ts";

/** What was started, to be stopped in the opposite order; Ctrl-C does it. */
export class Running {
  private readonly undo: (() => void | Promise<void>)[] = [];
  private stopping: Promise<void> | undefined;

  constructor() {
    for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const)
      process.on(signal, () => {
        if (!this.stopping) process.stdout.write("\n  Stopping …\n");
        void this.stop().then(() => process.exit(0));
      });
  }

  /** Remembers how something that was started is stopped. */
  add(stop: () => void | Promise<void>): void {
    this.undo.push(stop);
  }

  stop(): Promise<void> {
    return (this.stopping ??= (async () => {
      for (const action of this.undo.reverse()) await action();
    })());
  }
}

/** Brings up what the server stands on: the database with the sample company in it, and the simulated ledger service. */
export async function bringUpData(home: string, running: Running): Promise<Database> {
  const database = await step("Database", async () => {
    const opened = await openDatabase(home);
    return { value: opened, said: opened.said };
  });
  running.add(() => database.stop());
  await prepareDatabase(database.url, { scale: readScale(), home });
  if (offersSample()) await bringUpFeeds(database, running);
  if (database.cluster) {
    const watch = superviseCluster(database.cluster, {
      say: (sentence) => void process.stdout.write(`  ${sentence}\n`),
    });
    running.add(() => watch.stop());
  }
  return database;
}

/** The simulated ledger service, which the sample company is fed from. */
async function bringUpFeeds(database: Database, running: Running): Promise<void> {
  const service = await step("Ledger feed", async () => {
    const started = await startService();
    const knex = connect(database.url, { poolSize: 1 });
    await registerFeeds(knex, started.origin).finally(() => knex.destroy());
    return { value: started, said: `simulated at ${started.origin}` };
  });
  running.add(() => service.stop());
}

function readScale(): number {
  const text = process.env["HACKLE_SCALE"] ?? "1";
  const scale = Number(text);
  if (!(scale >= 0.3 && scale <= 1000))
    throw new LaunchError(`HACKLE_SCALE is "${text}"; it must be a number from 0.3 to 1000.`);
  return scale;
}
