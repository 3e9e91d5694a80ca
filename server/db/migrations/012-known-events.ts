import type { Knex } from "knex";

/** Events of which an analyst said what they were: when, where, in which KPI (in every one where none is named), and why. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table known_event (
      id int primary key generated always as identity,
      kpi text,
      first_day int not null,
      last_day int not null check (last_day >= first_day),
      scope jsonb not null,
      dimension text,
      members text[] not null default '{}',
      is_of_whole boolean not null,
      verdict text not null check (verdict in ('confirmed', 'dismissed')),
      reason text not null,
      said_by text not null,
      said_at timestamptz not null default now()
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("drop table known_event");
}
