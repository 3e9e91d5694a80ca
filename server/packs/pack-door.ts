import type { Knex } from "knex";
import type { RecordsDiff } from "#core/history/records-diff.ts";
import type { Door } from "#server/history/history.ts";
import type { PanelRow } from "./pack-rows.ts";

/** Where a panel stands. */
export interface PanelPlace {
  readonly pack: string;
  readonly page: string;
  readonly panel: string;
}

/** A panel as history keeps it. */
export interface PanelRecord {
  readonly definition: Readonly<Record<string, unknown>>;
  readonly position: number;
}

/** The name of a panel in the history. */
export function panelRecordName({ pack, page, panel }: PanelPlace): string {
  return `panel/${pack}/${page}/${panel}`;
}

/** Panels are changed row by row: two who change different panels of a page do not meet. */
export const packDoor: Door = {
  async read(trx, names) {
    const found: Record<string, PanelRecord> = {};
    for (const name of names) {
      const row = await trx("panel").where(placeOf(name)).forUpdate().first<PanelRow | undefined>("*");
      if (row) found[name] = { definition: row.definition, position: row.position };
    }
    return found;
  },
  async write(trx, { added, changed, removed }: RecordsDiff) {
    for (const name of Object.keys(removed)) await trx("panel").where(placeOf(name)).delete();
    for (const [name, record] of Object.entries(added)) await insertPanel(trx, name, record as PanelRecord);
    for (const [name, { to }] of Object.entries(changed)) {
      const { definition, position } = to as PanelRecord;
      await trx("panel")
        .where(placeOf(name))
        .update({ definition: JSON.stringify(definition), position, version: nextVersion(trx, name) });
    }
  },
};

async function insertPanel(trx: Knex.Transaction, name: string, { definition, position }: PanelRecord): Promise<void> {
  await trx("panel").insert({
    ...placeOf(name),
    definition: JSON.stringify(definition),
    position,
    version: nextVersion(trx, name),
  });
}

/** Versions of a place go on growing, even where a panel went and came back in between. */
function nextVersion(trx: Knex.Transaction, name: string): Knex.Raw {
  return trx.raw("(select count(*) + 2 from change where records @> array[?])", [name]);
}

function placeOf(name: string): { pack: string; page: string; key: string } {
  const [, pack, page, key] = name.split("/") as [string, string, string, string];
  return { pack, page, key };
}
