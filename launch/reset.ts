import { join } from "node:path";
import { createInterface } from "node:readline/promises";
import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { openDatabase } from "./database.ts";
import { openHome } from "./home.ts";
import { writeFeed } from "./feed.ts";
import { count } from "./prepare.ts";
import { LaunchError, runProgram, step } from "./progress.ts";
import { runningLauncher } from "./running.ts";
import { loadSample } from "./sample.ts";

/** Said by who knows what the question below would be. */
const isSure = process.argv.includes("--yes");

runProgram(async () => {
  process.stdout.write("\n  Hackle: restoring the sample company\n\n");
  const home = openHome();
  const database = await step("Database", async () => {
    const opened = await openDatabase(home);
    return { value: opened, said: opened.said };
  });
  const knex = connect(database.url, { poolSize: 2 });
  try {
    await migrate(knex);
    await refuseOwnLoads(knex);
    const running = runningLauncher(home);
    if (running !== undefined && !isSure) await askFirst(running);
    await step("Sample company", async () => {
      await writeFeed(join(home, "feed"));
      const { loads, rows } = await loadSample(knex, { scale: Number(process.env["HACKLE_SCALE"] ?? 1) });
      return { value: undefined, said: `${count(rows)} rows generated and posted in ${count(loads)} loads` };
    });
  } finally {
    await knex.destroy();
    if (!database.cluster?.wasRunning) database.stop();
  }
});

/** Refuses to replace what people posted: the sample's own loads came from no uploaded file. */
async function refuseOwnLoads(knex: Knex): Promise<void> {
  const own: { file_name: string; posted_by: string }[] = await knex("load")
    .whereNotNull("file_id")
    .whereNull("undone_at")
    .orderBy("id")
    .select("file_name", "posted_by");
  if (own.length === 0) return;
  const named = own.slice(0, 3).map((load) => `${load.file_name} (${load.posted_by})`);
  const more = own.length > 3 ? ` and ${own.length - 3} more` : "";
  throw new LaunchError(
    `${own.length === 1 ? "A load was" : `${count(own.length)} loads were`} posted that ${own.length === 1 ? "is" : "are"} not the sample's: ${named.join(", ")}${more}. Restoring the sample would lose ${own.length === 1 ? "it" : "them"}. Undo ${own.length === 1 ? "it" : "them"} on Loads first, or keep this data and start the sample elsewhere: HACKLE_HOME=/some/folder npm start`,
  );
}

/** People may be working: what they see is replaced under their hands. */
async function askFirst(running: number): Promise<void> {
  const question = `Hackle is running (process ${running}): everyone's pages, KPIs and drafts are replaced by the sample's while they work`;
  if (!process.stdin.isTTY)
    throw new LaunchError(`${question}. Stop it first, or say that it is meant: npm run demo:reset -- --yes`);
  const reader = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await reader.question(`  ${question}. Go on? [y/N] `);
  reader.close();
  if (!/^y(es)?$/i.test(answer.trim())) throw new LaunchError("Nothing was changed.");
}
