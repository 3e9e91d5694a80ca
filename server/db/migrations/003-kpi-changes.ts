import type { Knex } from "knex";

/** Every change of a KPI: what it was, what it became, who and when. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table kpi_change (
      id integer generated always as identity primary key,
      kpi text not null,
      at timestamptz not null default now(),
      by text not null,
      said text not null,
      before jsonb,
      after jsonb
    );
    create index kpi_change_by_kpi on kpi_change (kpi, id desc);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("drop table kpi_change");
}
