import type { Knex } from "knex";
import type { Account } from "#core/accounts/account.ts";
import { memberDepth } from "#core/dimensions/dimension.ts";
import { ACCOUNTS } from "#demo/company/accounts.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { KPIS } from "#demo/company/kpis.ts";
import { PACK } from "#demo/company/pack.ts";
import { PEOPLE } from "#demo/company/people.ts";
import { CALENDAR, DATASETS, SCENARIOS } from "#demo/company/scenarios.ts";
import { sampleLoads } from "#demo/generate/loads.ts";
import { hashPassword } from "#server/access/passwords.ts";
import { noteAllFactsChanged } from "#server/db/data-version.ts";
import { insertPack } from "#server/packs/insert-pack.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { inBatches, openLoad, postFacts, type PostingStructure } from "#server/intake/post-facts.ts";

/** The password of the sample company's people, for those who would rather type than click. */
export const SAMPLE_PASSWORD = "quillhaven";

/** Grows when the sample company changes, so that an older one can be told. */
export const SAMPLE_VERSION = "4";

const TABLES = [
  "adjustment",
  "known_event",
  "pull",
  "feed",
  "change",
  "job",
  "draft",
  "intake",
  "lookup_table",
  "file",
  "load_rejected",
  "load_replaces",
  "fact_set_aside",
  "currency_rate",
  "panel",
  "page",
  "pack",
  "kpi",
  "fact",
  "load_month",
  "load_account",
  "load",
  "dataset",
  "scenario",
  "account",
  "member",
  "dimension",
  "session",
  "person",
  "company",
];

/** Replaces everything by the sample company, in one transaction. Returns how much was loaded. */
export async function loadSample(
  knex: Knex,
  { scale = 1 }: { scale?: number } = {},
): Promise<{ loads: number; rows: number }> {
  const result = await knex.transaction(async (trx) => {
    await trx.raw(`truncate ${TABLES.join(", ")} restart identity cascade`);
    await trx("company").insert({ name: "Quillhaven Ferries", fiscal_start_month: CALENDAR.startMonth });
    const structure = await insertStructure(trx);
    await insertPeople(trx);
    await trx.batchInsert(
      "kpi",
      KPIS.map((definition, position) => ({ key: definition.key, definition: JSON.stringify(definition), position })),
    );
    await insertPack(trx, PACK, 0);
    const loads = sampleLoads({ scale }).sort((a, b) =>
      a.postedOn < b.postedOn ? -1 : a.postedOn > b.postedOn ? 1 : 0,
    );
    let rows = 0;
    for (const load of loads) {
      const { dataset, fileName } = load;
      const postedAt = new Date(`${load.postedOn}T08:30:00Z`);
      const opened = await openLoad(trx, { dataset, fileName, postedAt, postedBy: "Maren Holt" });
      rows += await postFacts(trx, structure, opened, inBatches(load.facts()));
    }
    await trx("data_version").update({ sample: SAMPLE_VERSION });
    await noteAllFactsChanged(trx);
    return { loads: loads.length, rows };
  });
  await knex.raw("vacuum (analyze) fact");
  return result;
}

async function insertStructure(trx: Knex.Transaction): Promise<PostingStructure> {
  const members = new Map<string, ReadonlyMap<string, number>>();
  for (const [index, dimension] of DIMENSIONS.entries()) {
    const { key, name, plural, levels } = dimension;
    const [row]: { id: number }[] = await trx("dimension")
      .insert({ position: index, key, name, plural, levels: [...levels] })
      .returning("id");
    members.set(
      key,
      await insertTree(
        trx,
        "member",
        dimension.members,
        (member, position) => ({
          dimension_id: row!.id,
          key: member.key,
          name: member.name,
          position,
          first_month: member.firstMonth ?? null,
          last_month: member.lastMonth ?? null,
        }),
        (member) => memberDepth(dimension, member.key),
      ),
    );
  }
  const accounts = await insertTree(
    trx,
    "account",
    ACCOUNTS,
    ({ key, name, kind, behaviour, unit, decimals }, position) => ({
      key,
      name,
      kind,
      behaviour,
      unit: JSON.stringify(unit),
      decimals,
      position,
    }),
    accountDepth,
  );
  const scenarios = await trx("scenario")
    .insert(
      SCENARIOS.map(({ key, name, kind, madeAfter }, position) => ({
        key,
        name,
        kind,
        made_after: madeAfter,
        position,
      })),
    )
    .returning<{ id: number; key: string }[]>(["id", "key"]);
  const datasets = await trx("dataset")
    .insert(
      DATASETS.map(({ key, name, grain, dimensions, closes = false }, position) => ({
        key,
        name,
        grain,
        closes,
        dimensions: [...dimensions],
        position,
      })),
    )
    .returning<{ id: number }[]>("id");
  for (const { id } of datasets) await createPartition(trx, id);
  return {
    dimensions: DIMENSIONS,
    ids: { accounts, members, scenarios: new Map(scenarios.map((s) => [s.key, s.id])) },
  };
}

/** Inserts a tree level by level, so that parents have their ids before their children need them. */
async function insertTree<T extends { key: string; parent: string | null }>(
  trx: Knex.Transaction,
  table: string,
  items: readonly T[],
  toRow: (item: T, position: number) => Record<string, unknown>,
  depthOf: (item: T) => number,
): Promise<Map<string, number>> {
  const ids = new Map<string, number>();
  const levels = new Map<number, [T, number][]>();
  items.forEach((item, position) =>
    levels.set(depthOf(item), [...(levels.get(depthOf(item)) ?? []), [item, position]]),
  );
  for (const depth of [...levels.keys()].sort((a, b) => a - b)) {
    const rows = levels.get(depth)!.map(([item, position]) => ({
      ...toRow(item, position),
      parent_id: item.parent === null ? null : ids.get(item.parent)!,
    }));
    const inserted = await trx(table).insert(rows).returning<{ id: number; key: string }[]>(["id", "key"]);
    for (const { id, key } of inserted) ids.set(key, id);
  }
  return ids;
}

function accountDepth(account: Account): number {
  const parent = account.parent === null ? undefined : ACCOUNTS.find((a) => a.key === account.parent);
  return parent ? accountDepth(parent) + 1 : 1;
}

async function insertPeople(trx: Knex.Transaction): Promise<void> {
  for (const { email, name, title, role, scope } of PEOPLE) {
    await trx("person").insert({
      email,
      name,
      title,
      role,
      scope: JSON.stringify(scope),
      signs_in_by_click: true,
      password_hash: await hashPassword(SAMPLE_PASSWORD),
    });
  }
}
