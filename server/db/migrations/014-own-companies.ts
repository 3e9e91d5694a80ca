import type { Knex } from "knex";

/** What a company of one's own says of itself, and people who come in with a password that somebody else chose. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table company add currency text not null default 'EUR' check (currency ~ '^[A-Z]{3}$');
    alter table person add must_choose_password boolean not null default false;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table company drop currency; alter table person drop must_choose_password;");
}
