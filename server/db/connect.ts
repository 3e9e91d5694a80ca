import createKnex, { type Knex } from "knex";
import type { Client } from "pg";

/**
 * How long connections of a pool wait. Of requests, whoever asks waits: a lock that somebody holds, and a question that
 * does not end, must not keep its connection from others. Work goes on beside the requests and may take its time.
 */
export type Patience = "requests" | "work";

const SETTINGS: Readonly<Record<Patience, Readonly<Record<string, string>>>> = {
  requests: { statement_timeout: "60s", lock_timeout: "4s", idle_in_transaction_session_timeout: "60s" },
  work: { statement_timeout: "2h", lock_timeout: "60s" },
};

/** What every connection is set up with, where the server knows of it: others are as old as they are. */
const FOR_ALL: Readonly<Record<string, string>> = {
  // Facts may be spread over several servers: each then adds up its own part.
  enable_partitionwise_aggregate: "on",
  // Whoever asked may be gone, or its process killed: what it asked is then given up.
  client_connection_check_interval: "2s",
};

/** How long the database may take to open a connection, and a pool to have one free, before the caller is told. */
const WAITS: Readonly<Record<Patience, { connectMs: number; acquireMs: number }>> = {
  requests: { connectMs: 3000, acquireMs: 5000 },
  work: { connectMs: 60_000, acquireMs: 90_000 },
};

/** What nobody uses is closed soon: there may be many companies, and a database allows so many connections and no more. */
const IDLE_MS = 5000;

/** Opens a pool on a PostgreSQL database. Requests wait some seconds for a connection, so that a page hears of it. */
export function connect(
  databaseUrl: string,
  {
    poolSize = 8,
    patience = "work",
    connectMs = WAITS[patience].connectMs,
    acquireMs = WAITS[patience].acquireMs,
  }: { poolSize?: number; patience?: Patience; connectMs?: number; acquireMs?: number } = {},
): Knex {
  return createKnex({
    client: "pg",
    connection: { connectionString: databaseUrl, connectionTimeoutMillis: connectMs, application_name: "hackle" },
    pool: {
      min: 0,
      max: poolSize,
      idleTimeoutMillis: IDLE_MS,
      afterCreate: setUp({ ...FOR_ALL, ...SETTINGS[patience] }),
    },
    acquireConnectionTimeout: acquireMs,
    // What Knex would print here is thrown to the caller too, who logs or words it.
    log: { warn: () => {}, error: () => {}, debug: () => {}, deprecate: () => {} },
  });
}

type Ready = (error: Error | null, connection: Client) => void;

function setUp(settings: Readonly<Record<string, string>>): (connection: Client, done: Ready) => void {
  const text = "select set_config(name, $1::jsonb ->> name, false) from pg_settings where $1::jsonb ? name";
  const values = [JSON.stringify(settings)];
  return (connection, done) => {
    connection.query(text, values).then(
      () => done(null, connection),
      (error: Error) => done(error, connection),
    );
  };
}
