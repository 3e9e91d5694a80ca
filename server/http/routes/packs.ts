import type { Knex } from "knex";
import { parseRecordName, recordName } from "#contract/pack-records.ts";
import type { PACKS } from "#contract/operations/packs.ts";
import type { Structure } from "#server/db/structure.ts";
import { listChanges, undoChange } from "#server/history/history.ts";
import { editPack, restorePage } from "#server/packs/edit-pack.ts";
import { packRepository } from "#server/packs/pack-repository.ts";
import { listPacks, monthInNames, readPack } from "#server/packs/packs.ts";
import type { Routes } from "../serve-operations.ts";

/** Packs with their pages, how they are changed, and what was done to them. */
export function packRoutes({
  knex,
  readStructure,
}: {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
}): Routes<typeof PACKS> {
  /** Runs a change of a pack, and answers with the pack as it is then. */
  const change = async (
    pack: string,
    work: (trx: Knex.Transaction, structure: Structure) => Promise<number | null>,
  ) => {
    const structure = await readStructure();
    const made = await knex.transaction((trx) => work(trx, structure));
    return { pack: await readPack(knex, pack, monthInNames(structure)), change: made };
  };
  return {
    packs: async () => listPacks(knex, monthInNames(await readStructure())),
    pack: async ({ params }) => readPack(knex, params.pack, monthInNames(await readStructure())),
    editPack: ({ params: { pack }, body, reader }) =>
      change(pack, (trx, structure) => editPack(trx, structure, pack, { ...body, by: reader.name })),
    restorePage: ({ params, body, reader }) =>
      change(params.pack, (trx) => restorePage(trx, { ...params, ...body, by: reader.name })),
    pageHistory: async ({ params: { pack, page } }) => {
      const changes = await listChanges(knex, {
        area: "pack",
        records: [recordName({ kind: "page", pack, page })],
        recordsBelow: `panel/${pack}/${page}/`,
      });
      return changes.map(({ diff: _, ...shown }) => shown);
    },
    undoPackChange: ({ params, reader }) =>
      change(params.pack, (trx) =>
        undoChange(trx, {
          id: params.change,
          area: "pack",
          isOf: (name) => parseRecordName(name)?.pack === params.pack,
          repository: packRepository,
          by: reader.name,
        }),
      ),
  };
}
