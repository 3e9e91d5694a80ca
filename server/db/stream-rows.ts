import type { Knex } from "knex";
import type { Client } from "pg";
import QueryStream from "pg-query-stream";

const BATCH = 5000;

/**
 * Streams a query's rows as arrays, in their columns' order, at the pace of whoever reads;
 * memory holds one batch. Parameters are `$1`, `$2` …
 */
export async function* streamRows<T extends readonly unknown[]>(
  knex: Knex,
  sql: string,
  values: readonly unknown[],
): AsyncGenerator<T> {
  const { client } = knex as unknown as {
    client: { acquireConnection(): Promise<Client>; releaseConnection(connection: Client): Promise<void> };
  };
  const connection = await client.acquireConnection();
  const stream = connection.query(new QueryStream(sql, [...values], { batchSize: BATCH, rowMode: "array" }));
  try {
    yield* stream as AsyncIterable<T>;
  } finally {
    // Whoever stops reading early leaves a cursor open, which must close before the connection serves others.
    if (!stream.closed) await new Promise<void>((resolve) => stream.destroy().once("close", () => resolve()));
    await client.releaseConnection(connection);
  }
}
