import createKnex, { type Knex } from "knex";

/** Opens a pool on a PostgreSQL database. Waiting for a connection ends after three seconds, so that a page hears of it. */
export function connect(databaseUrl: string, { poolSize = 8 }: { poolSize?: number } = {}): Knex {
  return createKnex({
    client: "pg",
    connection: { connectionString: databaseUrl, connectionTimeoutMillis: 3000, application_name: "hackle" },
    pool: { min: 0, max: poolSize },
    acquireConnectionTimeout: 3000,
    // What Knex would print here is thrown to the caller too, who logs or words it.
    log: { warn: () => {}, error: () => {}, debug: () => {}, deprecate: () => {} },
  });
}
