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
  given: GivenIds = new Map(),
): Promise<void> {
  await writeTree(trx, { table: "account", own: {}, before, after, given }, (item) => ({
    kind: item.kind,
    behaviour: item.behaviour,
    unit: item.unit,
    decimals: item.decimals,
  }));
}

/** Writes a dimension's members as they are to be. */
export async function writeMembers(
  trx: Knex.Transaction,
  dimensionId: number,
  before: readonly MemberItem[],
  after: readonly MemberItem[],
  given: GivenIds = new Map(),
): Promise<void> {
  await writeTree(trx, { table: "member", own: { dimension_id: dimensionId }, before, after, given }, (item) => ({
    attributes: item.attributes,
    first_month: item.firstMonth ?? null,
    last_month: item.lastMonth ?? null,
  }));
}

/** Numbers that new items are to have, by key; others get the next ones. */
export type GivenIds = ReadonlyMap<string, number>;

/** Writes a tree with as many statements whatever the number of its items. */
async function writeTree<T extends Required<Pick<Account, "key" | "name" | "parent" | "aliases" | "isRetired">>>(
  trx: Knex.Transaction,
  {
    table,
    own,
    before,
    after,
    given,
  }: {
    table: "account" | "member";
    own: Record<string, number>;
    before: readonly T[];
    after: readonly T[];
    given: GivenIds;
  },
  fields: (item: T) => Record<string, unknown>,
): Promise<void> {
  const was = new Map(before.map((item, position) => [item.key, { item, position }]));
  const is = new Set(after.map((item) => item.key));
  const ids = new Map(
    (await trx(table).where(own).select<{ id: number; key: string }[]>("id", "key")).map((row) => [row.key, row.id]),
  );
  const added = after.filter((item) => !was.has(item.key));
  const unnumbered = added.filter((item) => !given.has(item.key));
  const next = await nextIds(trx, table, unnumbered.length);
  for (const item of added) ids.set(item.key, given.get(item.key) ?? next.shift()!);
  const rowOf = (item: T, position: number) => ({
    id: ids.get(item.key)!,
    ...own,
    key: item.key,
    name: item.name,
    parent_id: item.parent === null ? null : ids.get(item.parent)!,
    aliases: item.aliases,
    retired: item.isRetired,
    position,
    ...fields(item),
  });
  const changed = after.flatMap((item, position) => {
    const known = was.get(item.key);
    if (!known || (known.position === position && known.item === item)) return [];
    return [{ ...rowOf(item, position), bump: isSame(known.item, item) ? 0 : 1 }];
  });
  const inserted = after.flatMap((item, position) => (was.has(item.key) ? [] : [rowOf(item, position)]));
  if (inserted.length > 0) {
    const columns = Object.keys(inserted[0]!).join(", ");
    await trx.raw(
      `insert into ${table} (${columns}) overriding system value
       select ${columns} from jsonb_populate_recordset(null::${table}, ?::jsonb)`,
      [JSON.stringify(inserted)],
    );
  }
  if (changed.length > 0) {
    const columns = Object.keys(changed[0]!).filter(
      (name) => !["id", "key", "bump", ...Object.keys(own)].includes(name),
    );
    await trx.raw(
      `update ${table} as own set ${columns.map((name) => `${name} = next.${name}`).join(", ")}, version = own.version + bump
       from jsonb_array_elements(?::jsonb) as item, lateral jsonb_populate_record(null::${table}, item) as next,
         lateral (select (item ->> 'bump')::int as bump) as said
       where own.id = next.id`,
      [JSON.stringify(changed)],
    );
  }
  const gone = before.filter((item) => !is.has(item.key)).map((item) => item.key);
  if (gone.length > 0) await trx(table).where(own).whereIn("key", gone).delete();
}

/** The next numbers of a table, which nobody else gets from then on. */
export async function nextIds(knex: Knex, table: string, count: number): Promise<number[]> {
  if (count === 0) return [];
  const { rows } = await knex.raw<{ rows: { id: string }[] }>(
    "select nextval(pg_get_serial_sequence(?, 'id')) as id from generate_series(1, ?)",
    [table, count],
  );
  return rows.map(({ id }) => Number(id));
}
