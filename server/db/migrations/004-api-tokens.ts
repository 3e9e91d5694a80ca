import type { Knex } from "knex";

/** Personal tokens, by which other programs read what their person may see. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table api_token (
      id integer generated always as identity primary key,
      person_id integer not null references person on delete cascade,
      name text not null,
      token_hash bytea not null unique,
      created_at timestamptz not null default now(),
      last_used_at timestamptz
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("drop table api_token");
}
