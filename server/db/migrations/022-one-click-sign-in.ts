import type { Knex } from "knex";

/** What the product does with it, and not whose people they are: some sign in with one click. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table person rename is_sample to signs_in_by_click;
    comment on column person.signs_in_by_click is 'whether the sign-in page offers them without a password';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`alter table person rename signs_in_by_click to is_sample`);
}
