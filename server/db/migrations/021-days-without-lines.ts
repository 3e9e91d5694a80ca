import type { Knex } from "knex";

/** What the days of a dataset are that have no line, where somebody said so. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table dataset add days_without_lines text check (days_without_lines in ('zero', 'missing'));
    comment on column dataset.days_without_lines is 'what days without a line are; found from the days that have one where it is null';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`alter table dataset drop days_without_lines`);
}
