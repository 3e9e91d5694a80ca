import type { Knex } from "knex";
import { undoChange } from "#server/history/history.ts";
import { readAccounts } from "./collections.ts";
import { followKinds } from "./follow-kinds.ts";
import { structureRepository } from "./structure-repository.ts";

/** Takes a change of the structure back; what follows from an account's kind follows. */
export async function undoStructureChange(trx: Knex.Transaction, id: number, by: string): Promise<void> {
  const before = await readAccounts(trx);
  await undoChange(trx, { id, area: "structure", repository: structureRepository, by });
  await followKinds(trx, before, await readAccounts(trx), by);
}
