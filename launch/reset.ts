import { join } from "node:path";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { openDatabase } from "./database.ts";
import { openHome } from "./home.ts";
import { writeFeed } from "./feed.ts";
import { count } from "./prepare.ts";
import { runProgram, step } from "./progress.ts";
import { loadSample } from "./sample.ts";

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
