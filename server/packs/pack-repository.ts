import type { Knex } from "knex";
import { mergeDiff } from "#core/history/merge-diff.ts";
import type { RecordsDiff } from "#core/history/records-diff.ts";
import {
  PACK_MERGE,
  parseRecordName,
  recordsOfPack,
  type PackRecord,
  type PackRecordName,
  type PageRecord,
  type PanelRecord,
} from "#contract/pack-records.ts";
import { isReadable } from "#contract/pack.ts";
import { readStoredPanel, storePanel } from "#contract/stored-panel.ts";
import { lock } from "#server/db/locks.ts";
import type { RecordRepository } from "#server/history/history.ts";
import { readPacks } from "./pack-rows.ts";

/**
 * Packs are changed setting by setting: two who change different ones do not meet. A page that goes takes along
 * what stands on it, so that taking that back brings all of it again.
 */
export const packRepository: RecordRepository = {
  async read(trx, names) {
    const packs = new Set(names.flatMap((name) => parseRecordName(name)?.pack ?? []));
    const found: Record<string, unknown> = {};
    for (const key of packs) {
      // Edits of one pack come one after the other.
      await lock(trx, "pack", { of: key });
      const [pack] = await readPacks(trx, key);
      if (pack) Object.assign(found, recordsOfPack(pack));
    }
    return found;
  },
  merge(now, diff) {
    return mergeDiff(now, withWholePages(now, inCurrentForm(diff)), PACK_MERGE);
  },
  async write(trx, { added, changed, removed }) {
    for (const name of inOrder(removed, -1)) await TABLES[nameOf(name).kind].remove(trx, nameOf(name));
    for (const name of inOrder(added, 1)) await TABLES[nameOf(name).kind].add(trx, nameOf(name), added[name]);
    for (const [name, { to }] of Object.entries(changed)) await TABLES[nameOf(name).kind].change(trx, nameOf(name), to);
  },
};

/** Definitions of an earlier form are brought to the current one, in which the present ones are compared. */
function inCurrentForm({ added, changed, removed }: RecordsDiff): RecordsDiff {
  const current = (name: string, record: unknown): unknown => {
    const read = parseRecordName(name);
    const { definition } = (record ?? {}) as Partial<PanelRecord>;
    if (read?.kind !== "panel" || definition === undefined) return record;
    const panel = readStoredPanel(definition, read.panel);
    return { ...(record as PanelRecord), definition: isReadable(panel) ? storePanel(panel) : definition };
  };
  const each = <V>(part: Readonly<Record<string, V>>, map: (name: string, value: V) => unknown) =>
    Object.fromEntries(Object.entries(part).map(([name, value]) => [name, map(name, value)]));
  return {
    added: each(added, current),
    changed: each(changed, (name, { from, to }) => ({
      from: current(name, from),
      to: current(name, to),
    })) as RecordsDiff["changed"],
    removed: each(removed, current),
  };
}

/** What stands on a page that goes now goes with it, whoever put it there meanwhile. */
function withWholePages(now: Readonly<Record<string, unknown>>, diff: RecordsDiff): RecordsDiff {
  const gone = Object.keys(diff.removed).flatMap((name) => {
    const read = parseRecordName(name);
    return read?.kind === "page" && Object.hasOwn(now, name) ? [`panel/${read.pack}/${read.page}/`] : [];
  });
  if (gone.length === 0) return diff;
  const standing = Object.entries(now).filter(([name]) => gone.some((start) => name.startsWith(start)));
  return { ...diff, removed: { ...Object.fromEntries(standing), ...diff.removed } };
}

function nameOf(name: string): PackRecordName {
  const read = parseRecordName(name);
  if (!read) throw new Error(`"${name}" is not a record of a pack.`);
  return read;
}

/** Packs before their pages, pages before their panels; the other way round where they go. */
function inOrder(part: Readonly<Record<string, unknown>>, sign: 1 | -1): string[] {
  const depth = (name: string) => name.split("/").length;
  return Object.keys(part).sort((a, b) => sign * (depth(a) - depth(b)));
}

/** How one kind of record is written. */
interface RecordTable {
  add(trx: Knex.Transaction, name: PackRecordName, record: unknown): Promise<void>;
  change(trx: Knex.Transaction, name: PackRecordName, record: unknown): Promise<void>;
  remove(trx: Knex.Transaction, name: PackRecordName): Promise<void>;
}

function tableOf<K extends PackRecordName["kind"], R>(
  table: string,
  keys: (name: Extract<PackRecordName, { kind: K }>) => Record<string, string>,
  columns: (record: R) => Record<string, unknown>,
): RecordTable {
  const whereOf = (name: PackRecordName) => keys(name as Extract<PackRecordName, { kind: K }>);
  return {
    add: async (trx, name, record) => void (await trx(table).insert({ ...whereOf(name), ...columns(record as R) })),
    change: async (trx, name, record) =>
      void (await trx(table)
        .where(whereOf(name))
        .update(columns(record as R))),
    remove: async (trx, name) => void (await trx(table).where(whereOf(name)).delete()),
  };
}

const TABLES: Readonly<Record<PackRecordName["kind"], RecordTable>> = {
  pack: tableOf<"pack", PackRecord>(
    "pack",
    ({ pack }) => ({ key: pack }),
    ({ position, ...definition }) => ({ definition: JSON.stringify(definition), position }),
  ),
  page: tableOf<"page", PageRecord>(
    "page",
    ({ pack, page }) => ({ pack, key: page }),
    ({ name, group, scope, look, position }) => ({
      name,
      section: group ?? null,
      scope: JSON.stringify(scope),
      look: JSON.stringify(look),
      position,
    }),
  ),
  panel: tableOf<"panel", PanelRecord>(
    "panel",
    ({ pack, page, panel }) => ({ pack, page, key: panel }),
    ({ definition, place }) => ({ definition: JSON.stringify(definition), place: JSON.stringify(place) }),
  ),
};
