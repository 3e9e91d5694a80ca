import type { Knex } from "knex";
import { diffRecords, isSame, type Records } from "#core/history/records-diff.ts";
import { depthFirst, treeRecords } from "#core/structure/tree-edit.ts";
import { refuseOverwritten } from "#server/history/refuse-overwritten.ts";
import { makeChange, type Changer } from "#server/history/history.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readAccounts, readMembers, readVersion, type AccountItem, type MemberItem } from "./collections.ts";
import {
  ACCOUNTS,
  lockStructure,
  membersPrefix,
  readSetting,
  requireDimension,
  settingName,
  structureRepository,
  structureRepositoryWith,
  type GivenTreeIds,
  type Setting,
  wholeName,
  type SettingTable,
} from "./structure-repository.ts";
import { followKinds } from "./follow-kinds.ts";
import type { PartTable } from "./named-by.ts";
import { readWholeRow } from "./whole-rows.ts";

/** Runs `change` on the chart of accounts. Returns the number of the change, or `null` when nothing changed. */
export async function changeAccounts(
  trx: Knex.Transaction,
  changer: Changer,
  change: (items: AccountItem[]) => readonly AccountItem[],
): Promise<number | null> {
  await lockStructure(trx);
  const before = await readAccounts(trx);
  const after = attempt(() => change(before));
  const diff = diffRecords(treeRecords(before, ACCOUNTS), treeRecords(after, ACCOUNTS));
  const made = await makeChange(trx, { area: "structure", repository: structureRepository, changer, diff });
  await followKinds(trx, before, after, changer.by);
  return made;
}

/** The same for a dimension's members. */
export async function changeMembers(
  trx: Knex.Transaction,
  changer: Changer,
  dimension: string,
  change: (items: MemberItem[]) => readonly MemberItem[],
): Promise<number | null> {
  await lockStructure(trx);
  const { id } = await requireDimension(trx, dimension);
  const before = await readMembers(trx, id);
  const after = attempt(() => change(before));
  const prefix = membersPrefix(dimension);
  const diff = diffRecords(treeRecords(before, prefix), treeRecords(after, prefix));
  return makeChange(trx, { area: "structure", repository: structureRepository, changer, diff });
}

/**
 * Adds accounts, and members of dimensions, with the numbers they are to have, as one change. The version of the data is
 * raised at its end.
 */
export async function addItems(
  trx: Knex.Transaction,
  changer: Changer,
  {
    accounts,
    members,
    given,
  }: {
    readonly accounts: readonly AccountItem[];
    readonly members: ReadonlyMap<string, readonly MemberItem[]>;
    readonly given: GivenTreeIds;
  },
): Promise<void> {
  await lockStructure(trx);
  let before: Records = {};
  let after: Records = {};
  const grow = (
    items: readonly (AccountItem | MemberItem)[],
    added: readonly (AccountItem | MemberItem)[],
    tree: string,
  ) => {
    before = { ...before, ...treeRecords(items, tree) };
    after = { ...after, ...treeRecords(depthFirst([...items, ...added]), tree) };
  };
  if (accounts.length > 0) grow(await readAccounts(trx), accounts, ACCOUNTS);
  for (const [dimension, added] of members) {
    const { id } = await requireDimension(trx, dimension);
    grow(await readMembers(trx, id), added, membersPrefix(dimension));
  }
  await makeChange(trx, {
    area: "structure",
    repository: structureRepositoryWith(given),
    changer,
    diff: diffRecords(before, after),
  });
}

/** Sets columns of a settings row, such as the calendar's start or a dimension's name. */
export async function changeSetting(
  trx: Knex.Transaction,
  changer: Changer,
  { table, key, to, was }: { table: SettingTable; key: string; to: Setting; was?: Setting | undefined },
): Promise<number | null> {
  await lockStructure(trx);
  const row = await readSetting(trx, table, key);
  if (!row) throw new ProblemError("not-found", `There is no ${table} "${key}".`);
  refuseOverwritten(`the ${table}`, { now: row, was, to });
  const name = settingName(table, key);
  const diff = diffRecords({ [name]: row }, { [name]: { ...row, ...to } });
  return makeChange(trx, { area: "structure", repository: structureRepository, changer, diff });
}

/**
 * Removes a dimension with its members, a dataset, or a scenario that nothing uses; taking the change back brings all of
 * it again. Throws a problem that says what uses it.
 */
export async function removePart(
  trx: Knex.Transaction,
  by: string,
  { table, key }: { readonly table: PartTable; readonly key: string },
): Promise<number | null> {
  await lockStructure(trx);
  const row = await readWholeRow(trx, table, key);
  if (!row) throw new ProblemError("not-found", `There is no ${table} "${key}" any more.`);
  const whole = { [wholeName(table, key)]: row };
  const { before, after } =
    table === "dimension" ? await withoutDimension(trx, key) : { before: {} as Records, after: {} as Records };
  const diff = diffRecords({ ...whole, ...before }, after);
  return makeChange(trx, {
    area: "structure",
    repository: structureRepository,
    changer: { by, said: `Removed the ${table} ${row.name}` },
    diff,
  });
}

/** The members that go with a dimension, and the datasets that were to be kept by it. */
async function withoutDimension(trx: Knex.Transaction, key: string): Promise<{ before: Records; after: Records }> {
  const { id } = await requireDimension(trx, key);
  const members = await readMembers(trx, id);
  const records = (items: readonly MemberItem[]) => (members.length > 0 ? treeRecords(items, membersPrefix(key)) : {});
  const before: Record<string, unknown> = { ...records(members) };
  const after: Record<string, unknown> = { ...records([]) };
  for (const dataset of (await trx("dataset").whereRaw("? = any(dimensions)", [key]).pluck("key")) as string[]) {
    const setting = (await readSetting(trx, "dataset", dataset))! as Setting & { dimensions: string[] };
    before[settingName("dataset", dataset)] = setting;
    after[settingName("dataset", dataset)] = {
      ...setting,
      dimensions: setting.dimensions.filter((own) => own !== key),
    };
  }
  return { before, after };
}

/**
 * Refuses a change of an account or member that was made on top of an older version than there is now.
 * Adding needs no version: a key that is taken is refused by itself.
 */
export async function refuseOutdated(
  trx: Knex.Transaction,
  where: { table: "account" | "member"; dimensionId?: number },
  command: { do: string; key?: string; version?: number; item?: unknown },
  items: readonly (AccountItem | MemberItem)[],
): Promise<void> {
  if (command.key === undefined || command.version === undefined) return;
  await lockStructure(trx);
  const current = items.find((item) => item.key === command.key);
  const version = await readVersion(trx, where, command.key);
  if (!current || version === undefined || version === command.version || isSame(current, command.item)) return;
  throw new ProblemError(
    "changed-meanwhile",
    `Someone changed ${current.name} while you were editing it. Look at their version, then apply your change on top.`,
    { both: { current: { ...current, version }, yours: command.item ?? null } },
  );
}

function attempt<T>(change: () => T): T {
  try {
    return change();
  } catch (error) {
    if (error instanceof RangeError) throw new ProblemError("invalid-change", error.message, { cause: error });
    throw error;
  }
}
