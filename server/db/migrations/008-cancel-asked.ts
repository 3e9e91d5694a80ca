import type { Knex } from "knex";

/** A job is broken off by the server that does it, whichever was asked to. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("alter table job add cancel_asked boolean not null default false");
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table job drop cancel_asked");
}
