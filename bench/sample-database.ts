import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { createDatabase } from "../launch/database.ts";
import type { Cluster } from "../launch/postgres/cluster.ts";
import { loadSample } from "../launch/sample.ts";

/** Creates a database with the sample company in it, for a bench of its own; returns its address. */
export async function createSampleDatabase(cluster: Cluster, name: string): Promise<string> {
  await createDatabase(cluster, name);
  const databaseUrl = cluster.urlOf(name);
  const knex = connect(databaseUrl);
  try {
    await migrate(knex);
    await loadSample(knex);
  } finally {
    await knex.destroy();
  }
  return databaseUrl;
}
