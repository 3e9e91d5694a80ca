import type { Knex } from "knex";
import { accountProblems } from "#core/accounts/account-tree.ts";
import { memberDepth } from "#core/dimensions/dimension.ts";
import type { RecordsDiff } from "#core/history/records-diff.ts";
import { applyToTree, treeRecords, type TreeItem } from "#core/structure/tree-edit.ts";
import { lock } from "#server/db/locks.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import type { RecordRepository } from "#server/history/history.ts";
import { slotColumn } from "#server/facts/slots.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { PartTable } from "./named-by.ts";
import {
  addWholeRow,
  readWholeRow,
  refuseUsedPart,
  removeWholeRow,
  type LoadName,
  type WholeRow,
} from "./whole-rows.ts";
import { readAccounts, readMembers, writeAccounts, writeMembers, type GivenIds } from "./collections.ts";

/** The chart of accounts in the history: "account/sales"; a dimension's members: "member/route/skerry". */
export const ACCOUNTS = "account";
export function membersPrefix(dimension: string): string {
  return `member/${dimension}`;
}

/** Tables whose named columns can be set, with the column that tells rows apart. */
const SETTINGS = {
  company: { by: "id", columns: ["name", "fiscal_start_month"] },
  dimension: { by: "key", columns: ["name", "plural", "levels"] },
  dataset: { by: "key", columns: ["name", "closes", "dimensions", "days_without_lines"] },
} as const;
export type SettingTable = keyof typeof SETTINGS;
export type Setting = Readonly<Record<string, unknown>>;

/** The name of a settings row in the history. */
export function settingName(table: SettingTable, key: string): string {
  return `${table}/${key}`;
}

/** The name in the history of a dimension, dataset or scenario as a whole, by which it is removed and comes back. */
export function wholeName(table: PartTable, key: string): string {
  return `${WHOLE}/${table}/${key}`;
}
const WHOLE = "whole";

/** A settings row as it can be changed; `undefined` where there is none. */
export async function readSetting(knex: Knex, table: SettingTable, key: string): Promise<Setting | undefined> {
  const { by, columns } = SETTINGS[table];
  return knex(table)
    .where({ [by]: key })
    .first<Setting | undefined>(...columns);
}

/** The numbers that new accounts and members are to have, by the name of their tree in the history: "account", "member/route". */
export type GivenTreeIds = ReadonlyMap<string, GivenIds>;

/** The structure is changed one change at a time, and only so that everything still holds together. */
export const structureRepository: RecordRepository = structureRepositoryWith(new Map());

/** The same, with numbers that new ones are to have. */
export function structureRepositoryWith(given: GivenTreeIds): RecordRepository {
  return {
    async read(trx, names) {
      await lockStructure(trx);
      const found: Record<string, unknown> = {};
      for (const area of new Set(names.map(areaOf))) {
        const all = await readArea(trx, area);
        for (const name of names) if (name in all) found[name] = all[name];
      }
      return found;
    },
    // The order is taken over as far as what it names is still there.
    isLoose: (name) => name.startsWith("order/"),
    async write(trx, diff) {
      const known = new Set((await readStructure(trx)).kpiProblems.keys());
      const areas = new Set([diff.added, diff.changed, diff.removed].flatMap((part) => Object.keys(part).map(areaOf)));
      // What comes back is there before what belongs to it, and goes after it.
      const isWhole = (area: string) => area.startsWith(`${WHOLE}/`);
      const first = [...areas].filter((area) => isWhole(area) && area in diff.added);
      const last = [...areas].filter((area) => isWhole(area) && !(area in diff.added));
      const others = [...areas].filter((area) => !isWhole(area));
      for (const area of last) {
        const [, table, key] = area.split("/") as [string, PartTable, string];
        await refuseUsedPart(trx, table, key);
      }
      for (const area of [...first, ...others, ...last]) await writeArea(trx, area, diff, given);
      await requireSound(trx, known);
    },
  };
}

/** Changes of the structure come one after another. */
export async function lockStructure(trx: Knex.Transaction): Promise<void> {
  await lock(trx, "structure");
}

/** "account", "member/route" or "dataset/ledger": what records belong to. */
function areaOf(name: string): string {
  const plain = name.replace(/^order\//, "");
  if (plain.startsWith("member/")) return plain.split("/").slice(0, 2).join("/");
  return plain.startsWith(ACCOUNTS) ? ACCOUNTS : plain;
}

async function readArea(trx: Knex.Transaction, area: string): Promise<Readonly<Record<string, unknown>>> {
  if (area === ACCOUNTS) return treeRecords(await readAccounts(trx), ACCOUNTS);
  const [table, key, own] = area.split("/") as [string, string, string];
  if (table === WHOLE) {
    const row = await readWholeRow(trx, key as PartTable, own);
    return row ? { [area]: row } : {};
  }
  if (table === "member") {
    const dimension: { id: number } | undefined = await trx("dimension").where({ key }).first("id");
    return dimension ? treeRecords(await readMembers(trx, dimension.id), area) : {};
  }
  const row = await readSetting(trx, table as SettingTable, key);
  return row ? { [area]: row } : {};
}

async function writeArea(trx: Knex.Transaction, area: string, diff: RecordsDiff, given: GivenTreeIds): Promise<void> {
  const inArea = (part: Readonly<Record<string, unknown>>) =>
    Object.fromEntries(Object.entries(part).filter(([name]) => areaOf(name) === area));
  const own = {
    added: inArea(diff.added),
    changed: inArea(diff.changed) as RecordsDiff["changed"],
    removed: inArea(diff.removed),
  };
  if (area === ACCOUNTS) return writeAccountTree(trx, own, given.get(ACCOUNTS));
  const [table, key, part] = area.split("/") as [string, string, string];
  if (table === WHOLE) {
    for (const row of Object.values(own.added)) await addWholeRow(trx, key as PartTable, row as WholeRow);
    if (Object.keys(own.removed).length > 0) await removeWholeRow(trx, key as PartTable, part);
    return;
  }
  if (table === "member") return writeMemberTree(trx, key, own, given.get(area));
  const { by } = SETTINGS[table as SettingTable];
  for (const { to } of Object.values(own.changed))
    await trx(table)
      .where({ [by]: key })
      .update(to as Setting);
}

async function writeAccountTree(trx: Knex.Transaction, diff: RecordsDiff, given?: GivenIds): Promise<void> {
  const before = await readAccounts(trx);
  const after = applyToTree(before, diff, ACCOUNTS);
  const problem = accountProblems(after)[0];
  if (problem) throw new ProblemError("invalid-change", problem);
  await refuseParentsWithFacts(trx, before, after);
  await refuseUsed(trx, Object.values(diff.removed).filter(isItem));
  await writeAccounts(trx, before, after, given);
}

async function writeMemberTree(
  trx: Knex.Transaction,
  dimension: string,
  diff: RecordsDiff,
  given?: GivenIds,
): Promise<void> {
  const row = await requireDimension(trx, dimension);
  const before = await readMembers(trx, row.id);
  const after = applyToTree(before, diff, membersPrefix(dimension));
  const shape = { key: dimension, name: row.name, plural: row.plural, levels: row.levels, members: after };
  const deep = after.find((m) => memberDepth(shape, m.key) > row.levels.length);
  if (deep)
    throw new ProblemError(
      "invalid-change",
      `${deep.name} would stand on level ${memberDepth(shape, deep.key)}, and ${row.name} has ${row.levels.length} (${row.levels.join(", ")}). Name another level first, or choose a higher place.`,
    );
  const short = after.find((m) => m.firstMonth !== null && m.lastMonth !== null && m.firstMonth > m.lastMonth);
  if (short)
    throw new ProblemError("invalid-change", `${short.name} would end before it begins. Give it a later last month.`);
  await refuseUsed(trx, Object.values(diff.removed).filter(isItem), row.id);
  await writeMembers(trx, row.id, before, after, given);
}

function isItem(record: unknown): record is TreeItem {
  return !Array.isArray(record);
}

async function requireSound(trx: Knex.Transaction, known: ReadonlySet<string>): Promise<void> {
  const structure = await sound(trx);
  const broken = [...structure.kpiProblems].find(([key]) => !known.has(key));
  if (!broken) return;
  const [key, { message }] = broken;
  const definition = structure.rows.kpis.find((kpi) => kpi.definition.key === key)?.definition;
  throw new ProblemError(
    "in-use",
    `${definition?.name ?? key} would no longer hold: ${message} Change that KPI first.`,
  );
}

async function sound(trx: Knex.Transaction): Promise<Structure> {
  try {
    return await readStructure(trx);
  } catch (error) {
    // What was changed is sound by itself; what is left are KPIs that speak of something gone.
    throw new ProblemError(
      "in-use",
      `${(error as Error).message} Change the KPI first, or retire the account rather than remove it.`,
      { cause: error },
    );
  }
}

/** A dimension's row. Throws a problem when there is none. */
export async function requireDimension(
  knex: Knex,
  key: string,
): Promise<{ id: number; name: string; plural: string; levels: string[] }> {
  const row: { id: number; name: string; plural: string; levels: string[] } | undefined = await knex("dimension")
    .where({ key })
    .first("id", "name", "plural", "levels");
  if (!row) throw new ProblemError("not-found", `There is no dimension "${key}".`);
  return row;
}

/** Refuses to take away accounts, or members of a dimension, that facts name, in force or set aside. */
async function refuseUsed(trx: Knex.Transaction, removed: readonly TreeItem[], dimensionId?: number): Promise<void> {
  for (const item of removed) {
    const load = await (dimensionId === undefined
      ? loadOfAccount(trx, item.key)
      : loadOfMember(trx, dimensionId, item.key));
    if (load?.undone_at)
      throw new ProblemError(
        "in-use",
        `${item.name} is in ${load.file_name}, which was undone and can still be brought back. Remove that load for good first.`,
      );
    if (load)
      throw new ProblemError(
        "in-use",
        `${item.name} has facts, and removing it would change figures of the past. Retire it instead: its history stays, and new files that use it are flagged.`,
      );
  }
}

/** A load that has an account, one in force before one that was undone. */
async function loadOfAccount(trx: Knex.Transaction, key: string): Promise<LoadName | undefined> {
  return trx("load_account")
    .join("account", "account.id", "account_id")
    .join("load", "load.id", "load_id")
    .where({ key })
    .orderByRaw("undone_at nulls first")
    .first<LoadName | undefined>("file_name", "undone_at");
}

async function loadOfMember(trx: Knex.Transaction, dimensionId: number, key: string): Promise<LoadName | undefined> {
  const member: { id: number } | undefined = await trx("member").where({ dimension_id: dimensionId, key }).first("id");
  const slots: { dataset_id: number; slot: number }[] = await trx("dataset_slot")
    .where({ dimension_id: dimensionId })
    .select("dataset_id", "slot");
  if (!member || slots.length === 0) return undefined;
  const places = slots.map(({ dataset_id, slot }) => `(dataset_id = ${dataset_id} and ${slotColumn(slot)} = :member)`);
  const { rows } = await trx.raw<{ rows: LoadName[] }>(
    `select file_name, undone_at from load join (
       (select load_id from fact where ${places.join(" or ")} limit 1)
       union all (select load_id from fact_set_aside where ${places.join(" or ")} limit 1)) as own on own.load_id = load.id
     order by undone_at nulls first`,
    { member: member.id },
  );
  return rows[0];
}

async function refuseParentsWithFacts(
  trx: Knex.Transaction,
  before: readonly TreeItem[],
  after: readonly TreeItem[],
): Promise<void> {
  const wereParents = new Set(before.map((item) => item.parent));
  const newParents = [...new Set(after.map((item) => item.parent))].filter(
    (key) => key !== null && !wereParents.has(key),
  );
  for (const key of newParents) {
    const used: unknown = await trx("load_account")
      .join("account", "account.id", "load_account.account_id")
      .where("account.key", key)
      .first("account_id");
    const name = after.find((item) => item.key === key)?.name ?? key;
    if (used)
      throw new ProblemError(
        "invalid-change",
        `${name} has facts of its own, so nothing can go below it: a parent is the sum of the accounts below. Make a new parent, and move ${name} below it too.`,
      );
  }
}
