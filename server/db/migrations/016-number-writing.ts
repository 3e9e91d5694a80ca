import type { Knex } from "knex";

/** How a company writes numbers, and who reads them otherwise. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table company add numbers text not null default '1,234.5';
    alter table person add numbers text;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("alter table company drop numbers; alter table person drop numbers;");
}
