import type { Knex } from "knex";

/**
 * Files on their way in, loads that can be undone and restated, and a structure that
 * remembers its changes. Facts that are out of force move to `fact_set_aside`, so that
 * no figure has to tell them from those in force.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table account add aliases text[] not null default '{}', add retired boolean not null default false;
    alter table member add aliases text[] not null default '{}', add retired boolean not null default false,
      add attributes jsonb not null default '{}';
    alter table dataset add closes boolean not null default false;
    update dataset set closes = true where grain = 'month';

    create table file (
      id integer generated always as identity primary key,
      name text not null,
      size bigint not null,
      uploaded_at timestamptz not null,
      uploaded_by text not null
    );
    create table intake (
      id integer generated always as identity primary key,
      name text not null unique,
      dataset text not null,
      columns text[] not null,
      definition jsonb not null,
      updated_at timestamptz not null,
      updated_by text not null
    );
    create table draft (
      id integer generated always as identity primary key,
      file_id integer not null references file,
      intake_id integer references intake on delete set null,
      intake_name text not null,
      definition jsonb not null,
      detected jsonb not null,
      version integer not null default 1,
      report jsonb,
      additions jsonb,
      note text
    );
    create table job (
      id integer generated always as identity primary key,
      kind text not null check (kind in ('check', 'post')),
      draft_id integer references draft on delete set null,
      file_name text not null,
      state text not null check (state in ('running', 'done', 'failed', 'cancelled', 'interrupted')),
      rows bigint not null default 0,
      share real not null default 0,
      message text,
      load_id integer,
      server text not null,
      started_by text not null,
      started_at timestamptz not null default now(),
      seen_at timestamptz not null default now()
    );
    create index job_draft on job (draft_id);

    alter table load add file_id integer references file, add intake_id integer references intake on delete set null,
      add undone_at timestamptz, add undone_by text, add rejected integer not null default 0, add report jsonb,
      add moved jsonb;
    alter table load_month add set_aside_by integer references load;
    create index load_month_set_aside on load_month (set_aside_by);
    create table load_replaces (
      load_id integer not null references load,
      replaced_id integer not null references load,
      scenario_id integer not null references scenario,
      month integer not null,
      primary key (load_id, replaced_id, scenario_id, month)
    );
    create table load_rejected (
      load_id integer not null references load,
      line integer not null,
      rule text not null,
      "column" text not null,
      value text not null,
      cells text[] not null
    );
    create index load_rejected_load on load_rejected (load_id, line);
    create table fact_set_aside (like fact);
    create index fact_set_aside_load on fact_set_aside (load_id, line);

    create table structure_change (
      id integer generated always as identity primary key,
      changed_at timestamptz not null default now(),
      changed_by text not null,
      said text not null,
      edits jsonb not null,
      undone_by integer references structure_change
    );

    create table feed (
      key text primary key,
      name text not null,
      url text not null,
      dataset text not null,
      schedule text,
      mode text not null default 'normal',
      last_run timestamptz
    );
    create table pull (
      id integer generated always as identity primary key,
      feed_key text not null references feed on delete cascade,
      started_at timestamptz not null default now(),
      ended_at timestamptz,
      started_by text not null,
      state text not null check (state in ('running', 'posted', 'waiting', 'nothing', 'failed')),
      message text not null,
      draft_id integer,
      load_id integer
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table pull, feed, structure_change, fact_set_aside, load_rejected, load_replaces, job, draft cascade;
    alter table load_month drop set_aside_by;
    alter table load drop file_id, drop intake_id, drop undone_at, drop undone_by, drop rejected, drop report, drop moved;
    drop table intake, file;
    alter table dataset drop closes;
    alter table member drop aliases, drop retired, drop attributes;
    alter table account drop aliases, drop retired;
  `);
}
