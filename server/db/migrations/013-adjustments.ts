import type { Knex } from "knex";

/**
 * What people change of a version by hand, apart from what its model says: that part is a scenario of its own, from
 * which the version follows by its adjustments, also when the model is fitted anew.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table scenario add model_part_id int references scenario on delete set null;
    create table adjustment (
      id int primary key generated always as identity,
      scenario_id int not null references scenario on delete cascade,
      kpi text not null,
      scope jsonb not null,
      from_month int not null,
      to_month int not null check (to_month >= from_month),
      kind text not null check (kind in ('percent', 'add', 'set')),
      value double precision not null,
      reason text not null,
      made_by text not null,
      made_at timestamptz not null default now()
    );
    create index adjustment_scenario on adjustment (scenario_id, id);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw("drop table adjustment; alter table scenario drop model_part_id;");
}
