import { join } from "node:path";
import { connect } from "#server/db/connect.ts";
import { openHome } from "./home.ts";
import { readPort, refuseTakenPort } from "./port.ts";
import { Running } from "./product.ts";
import { runProgram, step } from "./progress.ts";
import { startServer } from "./server-process.ts";
import { startThreeServers } from "./spread/three-servers.ts";
import { buildWeb } from "./web-build.ts";

/** Hackle with the sample company's facts spread over three PostgreSQL servers on loopback; Ctrl-C stops all of it. */
runProgram(async () => {
  const port = readPort();
  process.stdout.write("\n  Hackle on three database servers\n\n");
  await refuseTakenPort("127.0.0.1", port);
  const folder = join(openHome(), "three-servers");
  const running = new Running();
  try {
    const servers = await step("Databases", async () => {
      const started = await startThreeServers(folder);
      return { value: started, said: started.clusters.map((cluster) => `port ${cluster.port}`).join(", ") };
    });
    running.add(() => servers.stop());
    await step("Facts", async () => {
      await servers.spread();
      return { value: undefined, said: await saidOf(servers.url) };
    });
    const webFolder = await buildWeb();
    const server = await step("Server", async () => ({
      // Answers come from the database, or there would be nothing to see of it.
      value: await startServer({
        databaseUrl: servers.url,
        port,
        webFolder,
        filesFolder: join(folder, "files"),
        environment: { HACKLE_MEMORY: process.env["HACKLE_MEMORY"] ?? "0" },
      }),
      said: `listening on port ${port}`,
    }));
    running.add(() => server.stop());
    process.stdout.write(`\n  Ready: http://127.0.0.1:${port}\n  Ctrl-C stops everything.\n\n`);
  } catch (error) {
    await running.stop();
    throw error;
  }
});

/** How many facts lie where. */
async function saidOf(url: string): Promise<string> {
  const knex = connect(url, { poolSize: 1 });
  try {
    const { rows } = await knex.raw<{ rows: { server: string; facts: string }[] }>(
      `select coalesce(srvname, 'first') as server, count(*)::text as facts
       from fact left join pg_foreign_table on ftrelid = fact.tableoid left join pg_foreign_server s on s.oid = ftserver
       group by 1 order by 1`,
    );
    return rows.map(({ server, facts }) => `${facts} on ${server}`).join(", ");
  } finally {
    await knex.destroy();
  }
}
