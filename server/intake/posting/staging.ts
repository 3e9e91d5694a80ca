import type { Knex } from "knex";
import type { Client } from "pg";
import type { CoverageTally } from "../post-facts.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** The table in which a job gathers the facts of a file before any of them counts. */
export function stagingTable(jobId: number): string {
  return `fact_staged_${jobId}`;
}

/**
 * Makes a table for facts to come; nobody reads it until it is attached. Where it becomes the dataset's own it is kept
 * like any other, else it need not survive a crash: what it was for has failed then.
 */
export async function createStaging(knex: Knex, jobId: number, { isToStay }: { isToStay: boolean }): Promise<string> {
  const table = stagingTable(jobId);
  await dropStaging(knex, jobId);
  await knex.raw(
    `create ${isToStay ? "" : "unlogged"} table ${table} (like fact including defaults including constraints)`,
  );
  return table;
}

/** Drops what a job has gathered, if anything is left of it. */
export async function dropStaging(knex: Knex, jobId: number): Promise<void> {
  await knex.raw(`drop table if exists ${stagingTable(jobId)}`);
}

/** Runs something on a connection of its own, such as a COPY. */
export async function onConnection<T>(knex: Knex, run: (connection: Client) => Promise<T>): Promise<T> {
  const { client } = knex as unknown as {
    client: { acquireConnection(): Promise<Client>; releaseConnection(connection: Client): Promise<void> };
  };
  const connection = await client.acquireConnection();
  try {
    return await run(connection);
  } finally {
    await client.releaseConnection(connection);
  }
}

/** Throws where what arrived in a table is not what was sent to it. */
export async function requireArrived(knex: Knex, table: string, tally: CoverageTally): Promise<void> {
  const { rows } = await knex.raw<{ rows: { n: string; sum: string | null }[] }>(
    `select count(*) as n, sum(amount)::text as sum from ${table}`,
  );
  const { n, sum } = rows[0]!;
  if (Number(n) !== tally.rows || BigInt(sum ?? 0) !== tally.sum)
    throw new ProblemError(
      "internal",
      `The database holds ${n} facts of this file where ${tally.rows} were sent. Nothing was posted; try again.`,
    );
}

/**
 * Makes a table of facts ready to become the partition of a dataset: with the indexes that facts have, what tells the
 * planner how many rows it has, and what spares reading them when it is attached.
 */
export async function makeReady(knex: Knex, table: string, datasetId: number): Promise<void> {
  const { rows } = await knex.raw<{ rows: { definition: string }[] }>(
    "select pg_get_indexdef(indexrelid) as definition from pg_index where indrelid = 'fact'::regclass",
  );
  for (const { definition } of rows) {
    const using = definition.slice(definition.indexOf(" USING "));
    await knex.raw(`create index on ${table}${using}`);
  }
  await knex.raw(
    `alter table ${table} add constraint only_own check (dataset_id is not null and dataset_id = ${datasetId})`,
  );
  await knex.raw(`analyze ${table}`);
}

/** Makes a table of facts the partition of its dataset. */
export async function attachPartition(trx: Knex.Transaction, table: string, datasetId: number): Promise<void> {
  await trx.raw(`alter table ${table} rename to fact_${datasetId}`);
  await trx.raw(`alter table fact attach partition fact_${datasetId} for values in (${datasetId})`);
  await trx.raw(`alter table fact_${datasetId} drop constraint only_own`);
}
