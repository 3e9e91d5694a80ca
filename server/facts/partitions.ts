import type { Knex } from "knex";

/** Makes the partition that holds a dataset's facts. */
export async function createPartition(knex: Knex, datasetId: number): Promise<void> {
  await knex.raw(
    `create table if not exists fact_${Math.trunc(datasetId)} partition of fact for values in (${Math.trunc(datasetId)})`,
  );
}
