import type { Knex } from "knex";

/**
 * Versions that are made here: by whom, when and how; whether they are still open, and so not yet the latest forecast;
 * whether they are retired, and so offered no more.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table scenario
      add is_open boolean not null default false,
      add is_retired boolean not null default false,
      add made_by text,
      add made_at timestamptz,
      add made_how jsonb;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table scenario drop is_open, drop is_retired, drop made_by, drop made_at, drop made_how;
  `);
}
