import type { Knex } from "knex";

/** What came to the structure, the KPIs and the pages with a load, so that it can go with it. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("alter table load add brought jsonb");
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table load drop brought");
}
