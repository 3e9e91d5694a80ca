import type { Knex } from "knex";

interface StoredPack {
  key: string;
  definition: {
    name: string;
    starts?: unknown;
    pages?: { key: string; name: string; scope?: unknown; panels?: ({ key: string } & Record<string, unknown>)[] }[];
  };
}

/**
 * Pages and panels become rows of their own, so that two people who change different panels do not meet;
 * each thing that is edited counts its versions; and all changes, of whatever kind, are remembered as
 * diffs in one table. Members may have a life.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table page (
      pack text not null references pack on delete cascade,
      key text not null,
      name text not null,
      scope jsonb not null default '{}',
      position integer not null,
      version integer not null default 1,
      primary key (pack, key)
    );
    create table panel (
      pack text not null,
      page text not null,
      key text not null,
      definition jsonb not null,
      position double precision not null,
      version integer not null default 1,
      primary key (pack, page, key),
      foreign key (pack, page) references page on delete cascade
    );
    alter table pack add version integer not null default 1;
    alter table kpi add version integer not null default 1;
    alter table account add version integer not null default 1;
    alter table member add version integer not null default 1, add first_month integer, add last_month integer;

    create table change (
      id integer generated always as identity primary key,
      at timestamptz not null default now(),
      by text not null,
      area text not null check (area in ('pack', 'kpi', 'structure')),
      said text not null,
      diff jsonb not null,
      records text[] not null,
      undone_by integer references change
    );
    create index change_by_area on change (area, id desc);
    create index change_by_record on change using gin (records);
  `);
  const packs = await knex("pack").select<StoredPack[]>("key", "definition");
  for (const { key, definition } of packs) {
    for (const [position, page] of (definition.pages ?? []).entries()) {
      await knex("page").insert({ pack: key, key: page.key, name: page.name, scope: page.scope ?? {}, position });
      for (const [place, panel] of (page.panels ?? []).entries())
        await knex("panel").insert({
          pack: key,
          page: page.key,
          key: panel.key,
          definition: JSON.stringify({ ...panel, form: 1 }),
          position: place,
        });
    }
    const { name, starts } = definition;
    await knex("pack")
      .where({ key })
      .update({ definition: JSON.stringify({ name, ...(starts ? { starts } : {}) }) });
  }
  await knex.raw(`
    insert into change (at, by, area, said, diff, records)
    select at, by, 'kpi', said, jsonb_build_object(
        'added', case when before is null then jsonb_build_object('kpi/' || kpi, after) else '{}'::jsonb end,
        'removed', case when after is null then jsonb_build_object('kpi/' || kpi, before) else '{}'::jsonb end,
        'changed', case when before is null or after is null then '{}'::jsonb
          else jsonb_build_object('kpi/' || kpi, jsonb_build_object('from', before, 'to', after)) end),
      array['kpi/' || kpi]
    from kpi_change order by id;
    insert into change (at, by, area, said, diff, records)
    select changed_at, changed_by, 'structure', said, '{"added": {}, "changed": {}, "removed": {}}'::jsonb, '{}'
    from structure_change order by id;
    drop table kpi_change;
    drop table structure_change;
  `);
}

export async function down(knex: Knex): Promise<void> {
  const packs = await knex("pack").select<StoredPack[]>("key", "definition");
  for (const { key, definition } of packs) {
    const pages = await knex("page")
      .where({ pack: key })
      .orderBy("position")
      .select<{ key: string; name: string; scope: unknown }[]>("*");
    const panels = await knex("panel")
      .where({ pack: key })
      .orderBy("position")
      .select<{ page: string; definition: Record<string, unknown> }[]>("*");
    const whole = {
      key,
      ...definition,
      pages: pages.map((page) => ({
        key: page.key,
        name: page.name,
        scope: page.scope,
        panels: panels.filter((panel) => panel.page === page.key).map(({ definition: { form: _, ...panel } }) => panel),
      })),
    };
    await knex("pack")
      .where({ key })
      .update({ definition: JSON.stringify(whole) });
  }
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
    create table structure_change (
      id integer generated always as identity primary key,
      changed_at timestamptz not null default now(),
      changed_by text not null,
      said text not null,
      edits jsonb not null,
      undone_by integer references structure_change
    );
    drop table panel, page, change;
    alter table pack drop version;
    alter table kpi drop version;
    alter table account drop version;
    alter table member drop version, drop first_month, drop last_month;
  `);
}
