import type { Knex } from "knex";

/** Which KPIs' statuses a load turned, and which way. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("alter table load add alerts jsonb");
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table load drop alerts");
}
