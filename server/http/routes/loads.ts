import type { Knex } from "knex";
import type { LOADS } from "#contract/operations/loads.ts";
import type { Structure } from "#server/db/structure.ts";
import { writeRows } from "#server/export/downloads.ts";
import { filePath, type FileStore } from "#server/intake/file-store.ts";
import { compareLoads } from "#server/intake/loads/difference.ts";
import { describeLoad, listLoads } from "#server/intake/loads/list-loads.ts";
import { removeLoad } from "#server/intake/loads/remove-load.ts";
import { redoLoad, undoLoad } from "#server/intake/loads/undo-load.ts";
import { rejectedOfLoad } from "#server/intake/rejected.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Routes } from "../serve-operations.ts";

/** What was loaded, and what can be done with it. */
export function loadRoutes({
  knex,
  readStructure,
  store,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
  store: FileStore;
}): Routes<typeof LOADS> {
  return {
    loads: async () => listLoads(knex, (await readStructure()).calendar),
    load: async ({ params }) => describeLoad(knex, await readStructure(), params.load),
    undoLoad: async ({ params, reader }) => {
      const company = await readStructure();
      await knex.transaction((trx) => undoLoad(trx, params.load, reader.name, company.calendar));
      return describeLoad(knex, company, params.load);
    },
    redoLoad: async ({ params }) => {
      const company = await readStructure();
      await knex.transaction((trx) => redoLoad(trx, params.load, company.calendar));
      return describeLoad(knex, company, params.load);
    },
    removeLoad: async ({ params, body, reader }) => ({
      kept: await removeLoad(knex, store, { id: params.load, withBrought: body.withBrought, person: reader.name }),
    }),
    loadDifference: async ({ params, query }) => compareLoads(knex, await readStructure(), params.load, query.to),
    loadRejected: ({ params }) => ({
      fileName: `rejected-lines-of-load-${params.load}.csv`,
      type: "text/csv; charset=utf-8",
      write: writeRows(rejectedOfLoad(knex, params.load)),
    }),
    loadFile: async ({ params }) => {
      const row: { file_id: number | null; file_name: string } | undefined = await knex("load")
        .where({ id: params.load })
        .first("file_id", "file_name");
      if (!row?.file_id)
        throw new ProblemError("not-found", "The file of this load was not kept: it was generated, not uploaded.");
      return { fileName: row.file_name, path: filePath(store, row.file_id) };
    },
  };
}
