import { Router, type Response } from "express";
import type { Knex } from "knex";
import { idParamSchema } from "#contract/intake.ts";
import { differenceQuerySchema, loadRemoveSchema } from "#contract/loads.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { filePath, type FileStore } from "#server/intake/file-store.ts";
import { compareLoads } from "#server/intake/loads/difference.ts";
import { describeLoad, listLoads } from "#server/intake/loads/list-loads.ts";
import { removeLoad } from "#server/intake/loads/remove-load.ts";
import { redoLoad, undoLoad } from "#server/intake/loads/undo-load.ts";
import { rejectedOfLoad } from "#server/intake/rejected.ts";
import { contentDisposition, writeRows, type Downloads } from "#server/export/downloads.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readerOf } from "./session-routes.ts";

/** What was loaded, and what can be done with it. */
export function loadRoutes({
  knex,
  readStructure,
  store,
  downloads,
  personOf,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
  store: FileStore;
  downloads: Downloads;
  personOf: (res: Response) => string;
}): Router {
  const router = Router();
  const editor = (res: Response) => requireEditor(readerOf(res));
  router.get(OPERATIONS.loads.path, async (_req, res) => {
    res.json(await listLoads(knex, (await readStructure()).calendar));
  });
  router.get(OPERATIONS.load.path, async (req, res) => {
    editor(res);
    res.json(await describeLoad(knex, await readStructure(), readRequest(idParamSchema, req.params["load"])));
  });
  router.post(OPERATIONS.undoLoad.path, async (req, res) => {
    const { name } = editor(res);
    const id = readRequest(idParamSchema, req.params["load"]);
    const company = await readStructure();
    await knex.transaction((trx) => undoLoad(trx, id, name, company.calendar));
    res.json(await describeLoad(knex, company, id));
  });
  router.post(OPERATIONS.redoLoad.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["load"]);
    const company = await readStructure();
    await knex.transaction((trx) => redoLoad(trx, id, company.calendar));
    res.json(await describeLoad(knex, company, id));
  });
  router.post(OPERATIONS.removeLoad.path, async (req, res) => {
    const { name: person } = editor(res);
    const id = readRequest(idParamSchema, req.params["load"]);
    const { withBrought } = readRequest(loadRemoveSchema, req.body);
    res.json({ kept: await removeLoad(knex, store, { id, withBrought, person }) });
  });
  router.get(OPERATIONS.loadDifference.path, async (req, res) => {
    editor(res);
    const { to } = readRequest(differenceQuerySchema, req.query);
    res.json(await compareLoads(knex, await readStructure(), readRequest(idParamSchema, req.params["load"]), to));
  });
  router.get(OPERATIONS.loadRejected.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["load"]);
    await downloads.send(res, {
      fileName: `rejected-lines-of-load-${id}.csv`,
      type: "text/csv; charset=utf-8",
      person: personOf(res),
      write: writeRows(rejectedOfLoad(knex, id)),
    });
  });
  router.get(OPERATIONS.loadFile.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["load"]);
    const row: { file_id: number | null; file_name: string } | undefined = await knex("load")
      .where({ id })
      .first("file_id", "file_name");
    if (!row?.file_id)
      throw new ProblemError("not-found", "The file of this load was not kept: it was generated, not uploaded.");
    res.setHeader("Content-Disposition", contentDisposition(row.file_name));
    res.type("application/octet-stream").sendFile(filePath(store, row.file_id), { dotfiles: "allow" });
  });
  return router;
}
