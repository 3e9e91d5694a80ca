import { connect } from "#server/db/connect.ts";
import { loadSample } from "./sample.ts";

/** Loads the sample company on behalf of a launcher, in a process whose memory goes with it. */
const [databaseUrl, scale] = process.argv.slice(2);
const knex = connect(databaseUrl!, { poolSize: 2 });
try {
  process.send!(await loadSample(knex, { scale: Number(scale) }));
} finally {
  await knex.destroy();
  process.disconnect();
}
