import type { Knex } from "knex";
import { accountProblems } from "#core/accounts/account-tree.ts";
import {
  applyEdit,
  diffTree,
  isEmptyEdit,
  reverseEdit,
  type TreeEdit,
  type TreeItem,
} from "#core/structure/tree-edit.ts";
import { memberDepth } from "#core/dimensions/dimension.ts";
import { readStructure } from "#server/db/structure.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import {
  readAccounts,
  readMembers,
  writeAccounts,
  writeMembers,
  type AccountItem,
  type Collection,
  type MemberItem,
} from "./collections.ts";

/** A change to one of the trees, or to a setting, as it is remembered. */
export type StructureEdit =
  | { readonly of: Collection; readonly edit: TreeEdit<TreeItem> }
  | {
      readonly of: "setting";
      readonly table: SettingTable;
      readonly key: string;
      readonly from: Setting;
      readonly to: Setting;
    };

/** Tables whose named columns can be set, with the column that tells rows apart. */
const SETTINGS = {
  company: { by: "id", columns: ["name", "fiscal_start_month"] },
  dimension: { by: "key", columns: ["name", "plural", "levels"] },
  dataset: { by: "key", columns: ["name", "closes", "dimensions"] },
  scenario: { by: "key", columns: ["name", "made_after"] },
} as const;
type SettingTable = keyof typeof SETTINGS;
type Setting = Readonly<Record<string, unknown>>;

/** Who changes what, in words. */
export interface Changer {
  readonly person: string;
  readonly said: string;
}

/**
 * The one door for changes of the structure. Runs `change` on a tree, writes what came
 * of it, checks that everything still holds together, and remembers the difference, so
 * that it can be undone. Returns the number of the change, or `null` when nothing changed.
 */
export async function changeAccounts(
  trx: Knex.Transaction,
  changer: Changer,
  change: (items: AccountItem[]) => readonly AccountItem[],
): Promise<number | null> {
  await lock(trx);
  const before = await readAccounts(trx);
  const after = attempt(() => change(before));
  const edit = diffTree(before, after);
  if (isEmptyEdit(edit)) return null;
  const problem = accountProblems(after)[0];
  if (problem) throw new ProblemError("invalid-change", problem);
  await refuseParentsWithFacts(trx, before, after);
  await refuseUsed(trx, "account", edit.removed);
  await writeAccounts(trx, before, after);
  return remember(trx, changer, [{ of: "accounts", edit }]);
}

/** The same for a dimension's members. */
export async function changeMembers(
  trx: Knex.Transaction,
  changer: Changer,
  dimension: string,
  change: (items: MemberItem[]) => readonly MemberItem[],
): Promise<number | null> {
  await lock(trx);
  const row = await requireDimension(trx, dimension);
  const before = await readMembers(trx, row.id);
  const after = attempt(() => change(before));
  const edit = diffTree(before, after);
  if (isEmptyEdit(edit)) return null;
  const shape = { key: dimension, name: row.name, plural: row.plural, levels: row.levels, members: after };
  const deep = after.find((m) => memberDepth(shape, m.key) > row.levels.length);
  if (deep)
    throw new ProblemError(
      "invalid-change",
      `${deep.name} would stand on level ${memberDepth(shape, deep.key)}, and ${row.name} has ${row.levels.length} (${row.levels.join(", ")}). Name another level first, or choose a higher place.`,
    );
  await refuseUsed(trx, `m${row.slot}`, edit.removed, row.id);
  await writeMembers(trx, row.id, before, after);
  return remember(trx, changer, [{ of: `members/${dimension}`, edit }]);
}

/** Sets columns of a settings row, such as the calendar's start or a dimension's name. */
export async function changeSetting(
  trx: Knex.Transaction,
  changer: Changer,
  { table, key, to }: { table: SettingTable; key: string; to: Setting },
): Promise<number | null> {
  await lock(trx);
  const { by, columns } = SETTINGS[table];
  const row: Setting | undefined = await trx(table)
    .where({ [by]: key })
    .first(...columns);
  if (!row) throw new ProblemError("not-found", `There is no ${table} "${key}".`);
  const from = Object.fromEntries(Object.keys(to).map((column) => [column, row[column]]));
  if (JSON.stringify(from) === JSON.stringify(to)) return null;
  await trx(table)
    .where({ [by]: key })
    .update(to);
  return remember(trx, changer, [{ of: "setting", table, key, from, to }]);
}

/** Takes a change back, as a change of its own. Throws a problem when later ones stand in the way. */
export async function undoChange(trx: Knex.Transaction, id: number, person: string): Promise<void> {
  const row: { said: string; edits: StructureEdit[]; undone_by: number | null } | undefined = await trx(
    "structure_change",
  )
    .where({ id })
    .first("said", "edits", "undone_by");
  if (!row) throw new ProblemError("not-found", `There is no change ${id}.`);
  if (row.undone_by !== null) throw new ProblemError("invalid-change", `“${row.said}” was taken back already.`);
  const changer = { person, said: `Taken back: ${row.said}` };
  let made: number | null = null;
  for (const edit of row.edits.toReversed()) {
    if (edit.of === "setting") {
      made = await changeSetting(trx, changer, { table: edit.table, key: edit.key, to: edit.from });
    } else if (edit.of === "accounts") {
      const back = reverseEdit(edit.edit) as TreeEdit<AccountItem>;
      made = await changeAccounts(trx, changer, (items) => applyEdit(items, back));
    } else {
      const back = reverseEdit(edit.edit) as TreeEdit<MemberItem>;
      made = await changeMembers(trx, changer, edit.of.slice("members/".length), (items) => applyEdit(items, back));
    }
  }
  await trx("structure_change").where({ id }).update({ undone_by: made });
}

/** A dimension's row. Throws a problem when there is none. */
export async function requireDimension(
  knex: Knex,
  key: string,
): Promise<{ id: number; slot: number; name: string; plural: string; levels: string[] }> {
  const row: { id: number; slot: number; name: string; plural: string; levels: string[] } | undefined = await knex(
    "dimension",
  )
    .where({ key })
    .first("id", "slot", "name", "plural", "levels");
  if (!row) throw new ProblemError("not-found", `There is no dimension "${key}".`);
  return row;
}

/** Changes of the structure come one after another. */
async function lock(trx: Knex.Transaction): Promise<void> {
  await trx.raw("select pg_advisory_xact_lock(72001)");
}

async function remember(trx: Knex.Transaction, changer: Changer, edits: readonly StructureEdit[]): Promise<number> {
  await trx("data_version").increment("version", 1);
  try {
    await readStructure(trx, "0");
  } catch (error) {
    // What was changed is sound by itself; what is left are KPIs that speak of something gone.
    throw new ProblemError(
      "in-use",
      `${(error as Error).message} Change the KPI first, or retire the account rather than remove it.`,
      { cause: error },
    );
  }
  const [row]: { id: number }[] = await trx("structure_change")
    .insert({ changed_by: changer.person, said: changer.said, edits: JSON.stringify(edits) })
    .returning("id");
  return row!.id;
}

function attempt<T>(change: () => T): T {
  try {
    return change();
  } catch (error) {
    if (error instanceof RangeError) throw new ProblemError("invalid-change", error.message, { cause: error });
    throw error;
  }
}

async function refuseUsed(
  trx: Knex.Transaction,
  column: string,
  removed: readonly TreeItem[],
  dimensionId?: number,
): Promise<void> {
  for (const item of removed) {
    const isAccount = column === "account";
    const ids: { id: number }[] = isAccount
      ? await trx("account").where({ key: item.key }).select("id")
      : await trx("member").where({ key: item.key, dimension_id: dimensionId }).select("id");
    const id = ids[0]?.id ?? -1;
    const { rows } = isAccount
      ? await trx.raw<{ rows: unknown[] }>("select 1 from load_account where account_id = ? limit 1", [id])
      : await trx.raw<{ rows: unknown[] }>(
          "(select 1 from fact where ?? = ? limit 1) union all (select 1 from fact_set_aside where ?? = ? limit 1)",
          [column, id, column, id],
        );
    if (rows.length > 0)
      throw new ProblemError(
        "in-use",
        `${item.name} has facts, and removing it would change figures of the past. Retire it instead: its history stays, and new files that use it are flagged.`,
      );
  }
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
