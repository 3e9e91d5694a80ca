import { readStructure } from "#server/db/structure.ts";
import { lock } from "#server/db/locks.ts";
import type { RecordRepository } from "#server/history/history.ts";
import { refuseUnsound, refuseUsed } from "./soundness.ts";
import { readStoredKpis } from "#server/db/stored-kpis.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

const PREFIX = "kpi/";

/** The name of a KPI in the history. */
export function kpiRecordName(key: string): string {
  return PREFIX + key;
}

/** KPIs are changed one change at a time, and only so that every formula that names them still holds. */
export const kpiRepository: RecordRepository = {
  async read(trx, names) {
    await lock(trx, "kpis");
    const keys = new Set(names.map((name) => name.slice(PREFIX.length)));
    const rows = await trx("kpi")
      .whereIn("key", [...keys])
      .select<{ key: string; definition: unknown }[]>("key", "definition");
    return Object.fromEntries(rows.map((row) => [kpiRecordName(row.key), row.definition]));
  },
  async write(trx, { added, changed, removed }) {
    const structure = await readStructure(trx);
    const before = (await readStoredKpis(trx)).map(({ definition }) => definition);
    const written = [...Object.values(added), ...Object.values(changed).map(({ to }) => to)] as KpiDefinition[];
    const gone = Object.keys(removed).map((name) => name.slice(PREFIX.length));
    for (const key of gone) await refuseUsed(trx, structure, before, key);
    const byKey = new Map(written.map((definition) => [definition.key, definition]));
    const next = [
      ...before.filter(({ key }) => !gone.includes(key)).map((definition) => byKey.get(definition.key) ?? definition),
      ...written.filter(({ key }) => !before.some((definition) => definition.key === key)),
    ];
    for (const definition of written) refuseUnsound(structure, before, next, definition);
    if (gone.length > 0) await trx("kpi").whereIn("key", gone).delete();
    for (const definition of written) {
      const version = trx.raw("(select count(*) + 2 from change where records @> array[?])", [
        kpiRecordName(definition.key),
      ]);
      await trx("kpi")
        .insert({
          key: definition.key,
          definition: JSON.stringify(definition),
          version,
          position: trx.raw("(select coalesce(max(position), -1) + 1 from kpi)"),
        })
        .onConflict("key")
        .merge(["definition", "version"]);
    }
  },
};
