import type { Knex } from "knex";
import { parseMonth } from "#core/calendar/month.ts";
import type { STRUCTURE } from "#contract/operations/structure.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { addDimension, addScenario } from "#server/structure/add.ts";
import { changeAccountList, changeMemberList, importAccounts, importMembers } from "#server/structure/change-lists.ts";
import { changeCalendar, changeDataset, changeDimension } from "#server/structure/change-settings.ts";
import { removePart } from "#server/structure/change-structure.ts";
import { readAccounts, readMembers } from "#server/structure/collections.ts";
import { accountsToCsv, membersToCsv } from "#server/structure/csv-files.ts";
import { describeStructure } from "#server/structure/describe-structure.ts";
import { requireDimension } from "#server/structure/structure-repository.ts";
import { undoStructureChange } from "#server/structure/undo-change.ts";
import type { Call, Routes } from "../serve-operations.ts";

type Work = (trx: Knex.Transaction, person: string) => Promise<unknown>;

/** Accounts, dimensions, calendar, datasets and scenarios: reading and editing them. */
export function structureRoutes({
  knex,
  readStructure,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
}): Routes<typeof STRUCTURE> {
  const describe = async () => describeStructure(knex, await readStructure());
  /** Runs a change, and answers with the structure as it is then. */
  const change = async ({ reader }: Pick<Call<(typeof STRUCTURE)["structure"]>, "reader">, work: Work) => {
    await knex.transaction((trx) => work(trx, reader.name));
    return describe();
  };
  return {
    structure: describe,
    changeAccounts: (call) => change(call, (trx, by) => changeAccountList(trx, call.body, by)),
    accountsFile: async () => ({ fileName: "accounts.csv", rows: accountsToCsv(await readAccounts(knex)) }),
    importAccounts: (call) => change(call, (trx, by) => importAccounts(trx, textOf(call.req.body), by)),
    addDimension: (call) => change(call, (trx) => addDimension(trx, call.body)),
    changeDimension: (call) => change(call, (trx, by) => changeDimension(trx, call.params.dimension, call.body, by)),
    changeMembers: (call) => change(call, (trx, by) => changeMemberList(trx, call.params.dimension, call.body, by)),
    membersFile: async ({ params: { dimension } }) => {
      const { id } = await requireDimension(knex, dimension);
      return { fileName: `${dimension}.csv`, rows: membersToCsv(await readMembers(knex, id)) };
    },
    importMembers: (call) =>
      change(call, (trx, by) => importMembers(trx, call.params.dimension, textOf(call.req.body), by)),
    changeCalendar: (call) => change(call, (trx, by) => changeCalendar(trx, call.body, by)),
    changeDataset: (call) => change(call, (trx, by) => changeDataset(trx, call.params.dataset, call.body, by)),
    addScenario: (call) =>
      change(call, (trx) => {
        const { madeAfter, ...rest } = call.body;
        return addScenario(trx, { ...rest, madeAfter: madeAfter === null ? null : parseMonth(madeAfter)! });
      }),
    removePart: (call) => change(call, (trx, by) => removePart(trx, by, call.params)),
    undoChange: (call) => change(call, (trx, by) => undoStructureChange(trx, call.params.change, by)),
  };
}

function textOf(body: unknown): string {
  if (typeof body !== "string" || body === "")
    throw new ProblemError("invalid-request", "The file is empty. Export the list first to see its layout.");
  return body;
}
