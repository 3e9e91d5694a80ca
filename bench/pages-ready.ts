import { connect } from "#server/db/connect.ts";

const LOOK_MS = 1500;
/** What is enqueued later is noticed too: so often in a row nothing was found. */
const QUIET_LOOKS = 3;

/** Waits until a database's pages were made ready: its queue has nothing left of it. Says how long that took. */
export async function pagesReady(databaseUrl: string): Promise<void> {
  const knex = connect(databaseUrl, { poolSize: 1 });
  const start = performance.now();
  for (let quiet = 0; quiet < QUIET_LOOKS;) {
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    quiet = (await knex("hackle_companies.work").where({ task: "ready" }).first("id")) ? 0 : quiet + 1;
  }
  const fits: { n: string; bytes: string } | undefined = await knex("kept_fit").first(
    knex.raw("count(*) as n, sum(length(data)) as bytes"),
  );
  console.log(
    `pages made ready in ${((performance.now() - start) / 1000).toFixed(0)} s: ${fits?.n} fits, ${(Number(fits?.bytes) / 1e6).toFixed(1)} MB`,
  );
  await knex.destroy();
}
