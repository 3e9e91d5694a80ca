import type { Knex } from "knex";

/** Every dimension has a slot of its own; facts keep their members in the slots' columns. */
const SLOTS = [1, 2, 3, 4, 5, 6, 7, 8];

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table company (
      id smallint primary key default 1 check (id = 1),
      name text not null,
      fiscal_start_month smallint not null check (fiscal_start_month between 1 and 12)
    );
    create table data_version (id smallint primary key default 1 check (id = 1), version bigint not null, sample text);
    insert into data_version (version) values (1);

    create table person (
      id integer generated always as identity primary key,
      email text not null unique,
      name text not null,
      title text not null,
      role text not null check (role in ('analyst', 'area-manager', 'executive', 'administrator')),
      scope jsonb not null default '{}',
      password_hash text not null,
      is_sample boolean not null default false
    );
    create table session (
      token_hash bytea primary key,
      person_id integer not null references person on delete cascade,
      expires_at timestamptz not null
    );

    create table dimension (
      id integer generated always as identity primary key,
      slot smallint not null unique check (slot between 1 and 8),
      key text not null unique,
      name text not null,
      plural text not null,
      levels text[] not null
    );
    create table member (
      id integer generated always as identity primary key,
      dimension_id integer not null references dimension on delete cascade,
      key text not null,
      name text not null,
      parent_id integer references member,
      position integer not null,
      unique (dimension_id, key)
    );
    create table account (
      id integer generated always as identity primary key,
      key text not null unique,
      name text not null,
      parent_id integer references account,
      kind text not null check (kind in ('income', 'expense', 'asset', 'liability', 'equity', 'statistic')),
      behaviour text not null check (behaviour in ('flow', 'balance')),
      unit jsonb not null,
      decimals smallint not null check (decimals between 0 and 9),
      position integer not null
    );
    create table scenario (
      id integer generated always as identity primary key,
      key text not null unique,
      name text not null,
      kind text not null check (kind in ('actual', 'budget', 'forecast', 'target')),
      made_after integer,
      position integer not null
    );
    create table dataset (
      id integer generated always as identity primary key,
      key text not null unique,
      name text not null,
      grain text not null check (grain in ('day', 'month', 'quarter')),
      dimensions text[] not null,
      position integer not null
    );

    create table load (
      id integer generated always as identity primary key,
      dataset_id integer not null references dataset,
      file_name text not null,
      posted_at timestamptz not null,
      posted_by text not null,
      rows integer not null
    );
    create table load_account (
      load_id integer not null references load on delete cascade,
      scenario_id integer not null references scenario,
      account_id integer not null references account,
      depths smallint[] not null,
      rows integer not null,
      total numeric not null,
      primary key (load_id, scenario_id, account_id)
    );
    create table load_month (
      load_id integer not null references load on delete cascade,
      scenario_id integer not null references scenario,
      month integer not null,
      day_mask bigint,
      primary key (load_id, scenario_id, month)
    );

    create table fact (
      dataset_id integer not null,
      scenario_id integer not null,
      account_id integer not null,
      month integer not null,
      day smallint check (day between 1 and 31),
      amount bigint not null,
      load_id integer not null,
      line integer not null,
      ${SLOTS.map((slot) => `m${slot} integer`).join(", ")},
      reference text
    ) partition by list (dataset_id);
    create index fact_place on fact (account_id, scenario_id, month);
    create index fact_load on fact (load_id, line);
    comment on column fact.month is 'months since year 0: year * 12 + month - 1';
    comment on column fact.amount is 'whole minor units, positive in the account''s own direction';

    create table kpi (key text primary key, definition jsonb not null, position integer not null);
    create table pack (key text primary key, definition jsonb not null, position integer not null);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table pack, kpi, fact, load_month, load_account, load, dataset, scenario, account, member, dimension,
      session, person, data_version, company
  `);
}
