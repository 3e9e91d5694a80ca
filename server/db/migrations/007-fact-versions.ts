import type { Knex } from "knex";

/**
 * Facts count their changes apart from definitions, slice by slice, so that who keeps them in memory reads anew
 * only what moved; every change of the data version is told to whoever listens, when it is committed.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table data_version add facts bigint not null default 1, add facts_since bigint not null default 1;
    comment on column data_version.facts is 'counts changes of facts';
    comment on column data_version.facts_since is 'what was kept of facts before this change is of no use';
    create table fact_slice (
      dataset_id integer not null,
      scenario_id integer not null,
      month integer not null,
      facts bigint not null,
      primary key (dataset_id, scenario_id, month)
    );
    create index fact_slice_facts on fact_slice (facts);
    create function tell_data_version() returns trigger language plpgsql as $$
    begin
      perform pg_notify('data_version', new.version || ' ' || new.facts);
      return null;
    end $$;
    create trigger tell_data_version after update on data_version for each row execute function tell_data_version();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger tell_data_version on data_version;
    drop function tell_data_version;
    drop table fact_slice;
    alter table data_version drop facts, drop facts_since;
  `);
}
