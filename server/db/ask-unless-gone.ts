import type { Knex } from "knex";
import pLimit, { type LimitFunction } from "p-limit";
import type { Client } from "pg";
import { getOrCreate } from "#core/collections/keyed.ts";

/** What a pool of Knex can do besides asking. */
interface Pool {
  readonly pool: { readonly max: number };
  acquireConnection(): Promise<Client>;
  releaseConnection(connection: Client): Promise<void>;
  /** Tells PostgreSQL, over a connection of its own, to give up what runs on this one. */
  cancelQuery(connection: Client): Promise<unknown>;
}

/** Sums may take so much of a pool's connections; the rest is for what is quick, such as who asks. */
const SHARE = 0.75;

const turns = new WeakMap<Pool, LimitFunction>();

/**
 * Asks a query for somebody who may go: PostgreSQL is then told to give it up, and this throws. Without a signal, or
 * inside a transaction, it is asked to its end. Of many, each waits for its turn, however long that takes: only a database
 * that is not there is out of reach.
 */
export async function askUnlessGone<Row>(
  knex: Knex,
  { sql, values }: { readonly sql: string; readonly values: readonly unknown[] },
  gone: AbortSignal | undefined,
): Promise<readonly Row[]> {
  gone?.throwIfAborted();
  const query = knex.raw<{ rows: Row[] }>(sql, values as never);
  if (!gone || knex.isTransaction) return (await query).rows;
  const pool = (knex as unknown as { client: Pool }).client;
  const turn = getOrCreate(turns, pool, () => pLimit(Math.max(1, Math.floor(pool.pool.max * SHARE))));
  return turn(() => askOnce(pool, query, gone));
}

async function askOnce<Row>(pool: Pool, query: Knex.Raw<{ rows: Row[] }>, gone: AbortSignal): Promise<readonly Row[]> {
  gone.throwIfAborted();
  const connection = await pool.acquireConnection();
  let giving: Promise<unknown> | undefined;
  const giveUp = () => {
    giving = pool.cancelQuery(connection).catch(() => undefined);
  };
  gone.addEventListener("abort", giveUp, { once: true });
  try {
    gone.throwIfAborted();
    return (await query.connection(connection)).rows;
  } finally {
    gone.removeEventListener("abort", giveUp);
    // A late word to give up must not meet the next query on this connection.
    await giving;
    await pool.releaseConnection(connection);
  }
}

/** Whether an error says that a query was given up, or was not begun, for want of anybody who waits for it. */
export function isGivenUp(error: unknown): boolean {
  const { code, name } = error as { readonly code?: unknown; readonly name?: unknown };
  return code === "57014" || name === "AbortError";
}
