import { rm } from "node:fs/promises";
import type { Knex } from "knex";
import { diffRecords } from "#core/history/records-diff.ts";
import { packRepository } from "#server/packs/pack-repository.ts";
import { makeChange } from "#server/history/history.ts";
import { removeKpi } from "#server/kpis/library.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { changeAccounts, changeMembers, removePart } from "#server/structure/change-structure.ts";
import { filePath, type FileStore } from "../file-store.ts";
import type { Brought } from "./brought.ts";

interface LoadRow {
  readonly file_name: string;
  readonly undone_at: Date | null;
  readonly file_id: number | null;
  readonly brought: Brought | null;
}

/**
 * Removes an undone load for good: its lines, its file, and, where that is wanted, what it alone brought. The structure,
 * KPIs and pages that go are changes in the history. Returns what stays since something else uses it, as sentences.
 */
export async function removeLoad(
  knex: Knex,
  store: FileStore,
  { id, withBrought, person }: { readonly id: number; readonly withBrought: boolean; readonly person: string },
): Promise<string[]> {
  const { file, kept } = await knex.transaction(async (trx) => {
    const load: LoadRow | undefined = await trx("load")
      .where({ id })
      .forUpdate()
      .first("file_name", "undone_at", "file_id", "brought");
    if (!load) throw new ProblemError("not-found", `There is no load ${id} any more.`);
    if (!load.undone_at)
      throw new ProblemError("in-use", `${load.file_name} is active. Undo it first; then it can be deleted for good.`);
    await trx("fact_set_aside").where({ load_id: id }).delete();
    await trx("load_replaces").where({ load_id: id }).orWhere({ replaced_id: id }).delete();
    await trx("load_rejected").where({ load_id: id }).delete();
    await trx("load_month").where({ load_id: id }).delete();
    await trx("job").where({ load_id: id }).update({ load_id: null });
    await trx("pull").where({ load_id: id }).update({ load_id: null });
    await trx("load").where({ id }).delete();
    const isShared = load.file_id !== null && (await isFileUsed(trx, load.file_id));
    if (load.file_id !== null && !isShared) await trx("file").where({ id: load.file_id }).delete();
    return {
      file: isShared ? null : load.file_id,
      kept: withBrought && load.brought ? await removeBrought(trx, load.brought, { person, file: load.file_name }) : [],
    };
  });
  if (file !== null) await rm(filePath(store, file), { force: true });
  return kept;
}

/** Work that somebody did on a pack is not thrown away with a file. */
async function refuseArranged(trx: Knex.Transaction, pack: string): Promise<void> {
  const { rows } = await trx.raw<{ rows: { name: string }[] }>(
    `select definition ->> 'name' as name from pack
     where key = :pack and exists (
       select 1 from change, unnest(records) as record
       where area = 'pack' and (record = 'pack/' || :pack or starts_with(record, 'page/' || :pack || '/')
         or starts_with(record, 'panel/' || :pack || '/')))`,
    { pack },
  );
  if (rows[0])
    throw new ProblemError(
      "in-use",
      `The pack ${rows[0].name} was arranged since it was made, and stays. Retire it under Packs if it is of no use.`,
    );
}

async function isFileUsed(trx: Knex.Transaction, id: number): Promise<boolean> {
  const { rows } = await trx.raw<{ rows: unknown[] }>(
    "select 1 from load where file_id = :id union all select 1 from draft where file_id = :id limit 1",
    { id },
  );
  return rows.length > 0;
}

/** Takes what nothing else uses: pages before the KPIs on them, KPIs before the accounts that they read. */
async function removeBrought(
  trx: Knex.Transaction,
  brought: Brought,
  { person, file }: { readonly person: string; readonly file: string },
): Promise<string[]> {
  const kept: string[] = [];
  const attempt = async (work: (own: Knex.Transaction) => Promise<unknown>): Promise<boolean> => {
    try {
      await trx.transaction(work);
      return true;
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      // What is gone already needs no removal.
      if (error.code !== "not-found") kept.push(error.message);
      return false;
    }
  };
  const changer = { by: person, said: `Removed what came with ${file}` };
  for (const pack of brought.packs)
    await attempt(async (own) => {
      await refuseArranged(own, pack);
      const records = await packRepository.read(own, [`pack/${pack}`]);
      await makeChange(own, { area: "pack", repository: packRepository, changer, diff: diffRecords(records, {}) });
    });
  // A KPI may read another one of them.
  for (const kpi of brought.kpis.toReversed()) await attempt((own) => removeKpi(own, kpi, person));
  for (const dataset of brought.datasets)
    await attempt((own) => removePart(own, person, { table: "dataset", key: dataset }));
  await attempt((own) =>
    changeAccounts(own, changer, (items) => items.filter((a) => !brought.accounts.includes(a.key))),
  );
  for (const [dimension, members] of Object.entries(brought.members))
    await attempt((own) =>
      changeMembers(own, changer, dimension, (items) => items.filter((m) => !members.includes(m.key))),
    );
  for (const dimension of brought.dimensions)
    await attempt((own) => removePart(own, person, { table: "dimension", key: dimension }));
  return kept;
}
