import type { Knex } from "knex";

/** Small tables that files look up in, kept by what is in them; removed with nothing that needs them left. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table lookup_table (
      key text primary key,
      name text not null,
      columns jsonb not null,
      rows jsonb not null,
      stored_at timestamptz not null default now(),
      stored_by text not null
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("drop table lookup_table;");
}
