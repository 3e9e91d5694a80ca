import type { Knex } from "knex";

/** How a company writes days and with which day its weeks begin, and who reads days otherwise. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table company add dates text not null default '30 November 2026',
      add week_start smallint not null default 1 check (week_start between 1 and 7);
    alter table person add dates text;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table company drop dates, drop week_start; alter table person drop dates;");
}
