import type { Knex } from "knex";

interface StoredPanel {
  pack: string;
  page: string;
  key: string;
  definition: { kind?: unknown; columns?: unknown[] };
  position: number;
}
interface Place {
  x: number;
  y: number;
  w: number;
  h: number;
}

/**
 * Panels stand in a grid instead of in a row of them; pages have a look, a group and an order that lets others in
 * between; packs can be retired; a person chooses what is opened at sign-in, a company its palette. An edit that
 * comes twice is known by its name. Versions go: edits are merged setting by setting.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table panel add place jsonb;
    alter table page add look jsonb not null default '{}', add section text, alter position type double precision;
    alter table pack alter position type double precision;
    alter table person add opens text;
    alter table company add palette text not null default 'linen';
    alter table change add edit uuid unique;
  `);
  const pages = await knex("page").select<{ pack: string; key: string }[]>("pack", "key");
  for (const { pack, key } of pages) {
    const panels = await knex("panel").where({ pack, page: key }).orderBy("position").select<StoredPanel[]>("*");
    const places = placesOf(panels);
    for (const [i, panel] of panels.entries())
      await knex("panel")
        .where({ pack, page: key, key: panel.key })
        .update({ place: JSON.stringify(places[i]) });
  }
  // What was done to panels can still be taken back: their places are decided by whoever moved them last.
  const changes = await knex("change").where({ area: "pack" }).select<{ id: number; diff: Diff }[]>("id", "diff");
  const place = { x: 0, y: 0, w: 24, h: 58 };
  const placed = (record: unknown) => {
    const { definition } = record as { definition: unknown };
    return { definition, place };
  };
  for (const { id, diff } of changes) {
    const { added, changed, removed } = diff;
    const next = {
      added: mapValues(added, placed),
      changed: mapValues(changed, ({ from, to }) => ({ from: placed(from), to: placed(to) })),
      removed: mapValues(removed, placed),
    };
    await knex("change")
      .where({ id })
      .update({ diff: JSON.stringify(next) });
  }
  await knex.raw(`
    alter table panel alter place set not null, drop position, drop version;
    alter table page drop version;
    alter table pack drop version;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table panel add position double precision, add version integer not null default 1;
    update panel set position = (place->>'y')::float8 * 100 + (place->>'x')::float8;
    alter table panel alter position set not null, drop place;
    alter table page add version integer not null default 1, drop look, drop section;
    alter table pack add version integer not null default 1;
    alter table person drop opens;
    alter table company drop palette;
    alter table change drop edit;
  `);
}

interface Diff {
  added: Record<string, unknown>;
  changed: Record<string, { from: unknown; to: unknown }>;
  removed: Record<string, unknown>;
}

function mapValues<V, T>(record: Readonly<Record<string, V>>, map: (value: V) => T): Record<string, T> {
  return Object.fromEntries(Object.entries(record).map(([key, value]) => [key, map(value)]));
}

/** As they stood before: a broad panel and a slim one behind it side by side, every other in a row of its own. */
function placesOf(panels: readonly StoredPanel[]): Place[] {
  const places: Place[] = [];
  let y = 0;
  for (let i = 0; i < panels.length; i += 1) {
    const isPair =
      panels[i]!.definition.kind === "scorecard" &&
      (panels[i]!.definition.columns?.length ?? 0) <= 8 &&
      panels[i + 1]?.definition.kind === "time-chart";
    const h = HEIGHTS[String(panels[i]!.definition.kind)] ?? 24;
    places.push({ x: 0, y, w: isPair ? 15 : 24, h });
    if (isPair) {
      places.push({ x: 15, y, w: 9, h });
      i += 1;
    }
    y += h;
  }
  return places;
}

const HEIGHTS: Readonly<Record<string, number>> = { scorecard: 64, tiles: 32, "time-chart": 64 };
