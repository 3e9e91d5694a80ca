import createKnex, { type Knex } from "knex";
import type { Client } from "pg";

/** Opens a pool on a PostgreSQL database. Waiting for a connection ends after three seconds, so that a page hears of it. */
export function connect(databaseUrl: string, { poolSize = 8 }: { poolSize?: number } = {}): Knex {
  return createKnex({
    client: "pg",
    connection: { connectionString: databaseUrl, connectionTimeoutMillis: 3000, application_name: "hackle" },
    pool: { min: 0, max: poolSize, afterCreate: setUp },
    acquireConnectionTimeout: 3000,
    // What Knex would print here is thrown to the caller too, who logs or words it.
    log: { warn: () => {}, error: () => {}, debug: () => {}, deprecate: () => {} },
  });
}

/** Facts may be spread over several servers: each then adds up its own part. */
function setUp(connection: Client, done: (error: Error | null, connection: Client) => void): void {
  connection.query("set enable_partitionwise_aggregate = on").then(
    () => done(null, connection),
    (error: Error) => done(error, connection),
  );
}
