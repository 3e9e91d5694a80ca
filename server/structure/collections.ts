import type { Knex } from "knex";
import { parseMonth } from "#core/calendar/month.ts";
import type { MemberItem as WireMember } from "#contract/structure.ts";
import type { Account } from "#core/accounts/account.ts";
import type { Member } from "#core/dimensions/dimension.ts";
import { isSame } from "#core/history/records-diff.ts";

/** An account with everything about it that can be edited. */
export type AccountItem = Required<Account>;

/** A member with everything about it that can be edited. */
export type MemberItem = Required<Member>;

/** How often an account or member was changed; `undefined` where there is none. */
export async function readVersion(
  knex: Knex,
  { table, dimensionId }: { table: "account" | "member"; dimensionId?: number },
  key: string,
): Promise<number | undefined> {
  const row: { version: number } | undefined = await knex(table)
    .where({ key, ...(dimensionId === undefined ? {} : { dimension_id: dimensionId }) })
    .first("version");
  return row?.version;
}

/** A member as it crosses the wire, with its months as the core counts them. */
export function memberItem({ firstMonth, lastMonth, ...item }: WireMember): MemberItem {
  const month = (text: string | null) => (text === null ? null : parseMonth(text)!);
  return { ...item, firstMonth: month(firstMonth), lastMonth: month(lastMonth) };
}

interface TreeRow {
  id: number;
  key: string;
  name: string;
  parent_id: number | null;
  aliases: string[];
  retired: boolean;
}

/** The chart of accounts, in its order. */
export async function readAccounts(knex: Knex): Promise<AccountItem[]> {
  const rows = await knex("account")
    .orderBy("position")
    .select<(TreeRow & Pick<Account, "kind" | "behaviour" | "unit" | "decimals">)[]>("*");
  const keyOf = new Map(rows.map((row) => [row.id, row.key]));
  return rows.map((row) => ({
    key: row.key,
    name: row.name,
    parent: row.parent_id === null ? null : keyOf.get(row.parent_id)!,
    kind: row.kind,
    behaviour: row.behaviour,
    unit: row.unit,
    decimals: row.decimals,
    aliases: row.aliases,
    isRetired: row.retired,
  }));
}

/** A dimension's members, in their order. */
export async function readMembers(knex: Knex, dimensionId: number): Promise<MemberItem[]> {
  const rows = await knex("member")
    .where({ dimension_id: dimensionId })
    .orderBy("position")
    .select<
      (TreeRow & { attributes: Record<string, string>; first_month: number | null; last_month: number | null })[]
    >("*");
  const keyOf = new Map(rows.map((row) => [row.id, row.key]));
  return rows.map((row) => ({
    key: row.key,
    name: row.name,
    parent: row.parent_id === null ? null : keyOf.get(row.parent_id)!,
    aliases: row.aliases,
    isRetired: row.retired,
    attributes: row.attributes,
    firstMonth: row.first_month,
    lastMonth: row.last_month,
  }));
}

/** Writes the chart of accounts as it is to be: new ones, changed ones, gone ones, and the order. */
export async function writeAccounts(
  trx: Knex.Transaction,
  before: readonly AccountItem[],
  after: readonly AccountItem[],
): Promise<void> {
  await writeTree(trx, { table: "account", own: {}, before, after }, (item) => ({
    kind: item.kind,
    behaviour: item.behaviour,
    unit: JSON.stringify(item.unit),
    decimals: item.decimals,
  }));
}

/** Writes a dimension's members as they are to be. */
export async function writeMembers(
  trx: Knex.Transaction,
  dimensionId: number,
  before: readonly MemberItem[],
  after: readonly MemberItem[],
): Promise<void> {
  await writeTree(trx, { table: "member", own: { dimension_id: dimensionId }, before, after }, (item) => ({
    attributes: JSON.stringify(item.attributes),
    first_month: item.firstMonth ?? null,
    last_month: item.lastMonth ?? null,
  }));
}

async function writeTree<T extends Required<Pick<Account, "key" | "name" | "parent" | "aliases" | "isRetired">>>(
  trx: Knex.Transaction,
  {
    table,
    own,
    before,
    after,
  }: { table: "account" | "member"; own: Record<string, number>; before: readonly T[]; after: readonly T[] },
  fields: (item: T) => Record<string, unknown>,
): Promise<void> {
  const was = new Map(before.map((item, position) => [item.key, { item, position }]));
  const is = new Set(after.map((item) => item.key));
  const columns = (item: T, position: number) => ({
    name: item.name,
    aliases: [...item.aliases],
    retired: item.isRetired,
    position,
    ...fields(item),
  });
  const added = after.flatMap((item, position) =>
    was.has(item.key) ? [] : [{ ...own, key: item.key, ...columns(item, position) }],
  );
  await trx.batchInsert(table, added, 500);
  const ids = new Map(
    (await trx(table).where(own).select<{ id: number; key: string }[]>("id", "key")).map((row) => [row.key, row.id]),
  );
  const parentId = (item: T) => (item.parent === null ? null : ids.get(item.parent)!);
  for (const [position, item] of after.entries()) {
    const known = was.get(item.key);
    // New ones at the top are written already; the others could not know their parents' numbers.
    const isWritten = known ? known.position === position && known.item === item : item.parent === null;
    const isChanged = known && !isSame(known.item, item);
    if (!isWritten)
      await trx(table)
        .where({ ...own, key: item.key })
        .update({
          ...columns(item, position),
          parent_id: parentId(item),
          ...(isChanged ? { version: trx.raw("version + 1") } : {}),
        });
  }
  const gone = before.filter((item) => !is.has(item.key)).map((item) => item.key);
  if (gone.length > 0) await trx(table).where(own).whereIn("key", gone).delete();
}
