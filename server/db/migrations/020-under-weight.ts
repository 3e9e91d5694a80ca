import type { Knex } from "knex";

/**
 * Jobs wait for their turn in the queue of all companies; those that an older server had in hand were broken off. What files
 * are checked against counts its changes apart, so that a page that is edited makes no check outdated. The version is told
 * with the company it is of, since all are heard over one connection. A load says whether what follows from it was worked
 * out.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    update job set state = 'interrupted', message = 'The server stopped while this file was worked on. Nothing of it was posted.'
    where state = 'running';
    update pull set state = 'failed', ended_at = now(), message = 'The server stopped during this pull. Nothing of it was posted.'
    where state = 'running';
    alter table job drop constraint job_state_check, drop server, drop cancel_asked;
    alter table job add check (state in ('waiting', 'running', 'done', 'failed', 'cancelled', 'interrupted'));
    alter table data_version add structure bigint not null default 1;
    comment on column data_version.structure is 'counts changes of what files are checked against, besides facts';
    create or replace function tell_data_version() returns trigger language plpgsql as $$
    begin
      perform pg_notify('data_version', tg_table_schema);
      return null;
    end $$;
    create table kept_fit (key text primary key, data bytea not null, used_at timestamptz not null default now());
    comment on table kept_fit is 'results of fitting, by what they were made from; whatever is missing is made again';
    create index kept_fit_used on kept_fit (used_at);
    alter table load add followed_up boolean not null default true, add stood_before jsonb;
    comment on column load.stood_before is 'how things stood before it, until what it moved was worked out';
    comment on column load.followed_up is 'whether what it moved was worked out';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    update job set state = 'interrupted' where state in ('waiting', 'running');
    drop table kept_fit;
    alter table load drop followed_up, drop stood_before;
    create or replace function tell_data_version() returns trigger language plpgsql as $$
    begin
      perform pg_notify('data_version', new.version || ' ' || new.facts);
      return null;
    end $$;
    alter table data_version drop structure;
    alter table job drop constraint job_state_check, add server text not null default '', add cancel_asked boolean not null default false;
    alter table job add constraint job_state_check check (state in ('running', 'done', 'failed', 'cancelled', 'interrupted'));
  `);
}
