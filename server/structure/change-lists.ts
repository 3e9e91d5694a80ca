import type { Knex } from "knex";
import type { z } from "zod";
import { sayCommand } from "#core/structure/say-command.ts";
import { commandTree, type TreeCommand } from "#core/structure/tree-edit.ts";
import type { accountCommandSchema, memberCommandSchema } from "#contract/structure.ts";
import { changeAccounts, changeMembers, refuseOutdated } from "./change-structure.ts";
import { memberItem, readAccounts, readMembers, type MemberItem } from "./collections.ts";
import { accountsFromCsv, membersFromCsv } from "./csv-files.ts";
import { requireDimension } from "./structure-repository.ts";

/** Adds, changes, moves or removes an account. */
export async function changeAccountList(
  trx: Knex.Transaction,
  command: z.output<typeof accountCommandSchema>,
  by: string,
): Promise<void> {
  const items = await readAccounts(trx);
  await refuseOutdated(trx, { table: "account" }, command, items);
  await changeAccounts(trx, { by, said: sayCommand(items, command) }, (items) => commandTree(items, command));
}

/** Takes accounts over from CSV; what the file does not name stays. */
export async function importAccounts(trx: Knex.Transaction, text: string, by: string): Promise<void> {
  const said = "Imported accounts from a file";
  await changeAccounts(trx, { by, said }, (items) => accountsFromCsv(text, items));
}

/** Adds, changes, moves or removes a member of a dimension. */
export async function changeMemberList(
  trx: Knex.Transaction,
  dimension: string,
  asked: z.output<typeof memberCommandSchema>,
  by: string,
): Promise<void> {
  const command = memberCommand(asked);
  const { id, name } = await requireDimension(trx, dimension);
  const items = await readMembers(trx, id);
  await refuseOutdated(trx, { table: "member", dimensionId: id }, command, items);
  const said = `${name}: ${sayCommand(items, command)}`;
  await changeMembers(trx, { by, said }, dimension, (items) => commandTree(items, command));
}

/** Takes a dimension's members over from CSV; what the file does not name stays. */
export async function importMembers(trx: Knex.Transaction, dimension: string, text: string, by: string): Promise<void> {
  const { name } = await requireDimension(trx, dimension);
  const said = `${name}: imported members from a file`;
  await changeMembers(trx, { by, said }, dimension, (items) => membersFromCsv(text, items));
}

/** A command with its months as the core counts them. */
function memberCommand(command: z.output<typeof memberCommandSchema>): TreeCommand<MemberItem> & { version?: number } {
  return "item" in command ? { ...command, item: memberItem(command.item) } : command;
}
