import { Router, type Response } from "express";
import {
  draftChangeSchema,
  draftVersionSchema,
  idParamSchema,
  sheetTableSchema,
  uploadQuerySchema,
} from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { bringTableFile, bringTableSheet } from "#server/intake/drafts/bring-table.ts";
import { changeDraft, discardDraft } from "#server/intake/drafts/change-draft.ts";
import { describeDraft, listDrafts } from "#server/intake/drafts/describe-draft.ts";
import { openDraft } from "#server/intake/drafts/open-draft.ts";
import type { WorkbookHeads } from "#server/intake/drafts/understand-workbook.ts";
import { storeFile, type FileStore } from "#server/intake/file-store.ts";
import { forgetIntake, listIntakes } from "#server/intake/intakes.ts";
import { readJob } from "#server/intake/jobs/job-record.ts";
import { cancelJob, startCheck, startPost, type JobsPlace } from "#server/intake/jobs/jobs.ts";
import type { IntakeProcesses, TaskPlace } from "#server/intake/jobs/task.ts";
import type { Downloads } from "#server/export/downloads.ts";
import { readerOf } from "./session-routes.ts";

/** Files on their way in, and the ways in that are remembered. */
export function draftRoutes({
  knex,
  company,
  readStructure,
  store,
  place,
  quickly,
  processes,
  downloads,
  personOf,
}: JobsPlace & {
  readStructure: () => Promise<Structure>;
  store: FileStore;
  place: TaskPlace;
  /** For what somebody waits for at their screen. */
  quickly: IntakeProcesses;
  processes: IntakeProcesses;
  downloads: Downloads;
  personOf: (res: Response) => string;
}): Router {
  const router = Router();
  const jobs: JobsPlace = { knex, company };
  const workbookHeads: WorkbookHeads = (path, request) => quickly.run({ kind: "head", store, path, request });
  const editor = (res: Response) => requireEditor(readerOf(res));
  const answer = async (res: Response, id: number) => {
    res.json(await describeDraft(knex, await readStructure(), id));
  };

  router.get(OPERATIONS.drafts.path, async (_req, res) => {
    editor(res);
    res.json(await listDrafts(knex));
  });
  router.post(OPERATIONS.openDraft.path, async (req, res) => {
    const { name: person } = editor(res);
    const { name } = readRequest(uploadQuerySchema, req.query);
    const file = await storeFile(knex, store, { stream: req, name, person });
    const id = await openDraft(knex, await readStructure(), file, { limits: store.limits, workbookHeads });
    await startCheck(jobs, id, person);
    await answer(res, id);
  });
  router.get(OPERATIONS.draft.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    await answer(res, id);
  });
  router.put(OPERATIONS.changeDraft.path, async (req, res) => {
    const { name: person } = editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    await changeDraft(
      knex,
      await readStructure(),
      { store, workbookHeads },
      { id, ...readRequest(draftChangeSchema, req.body) },
    );
    await startCheck(jobs, id, person);
    await answer(res, id);
  });
  router.post(OPERATIONS.bringTable.path, async (req, res) => {
    const { name: person } = editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    const { name } = readRequest(uploadQuerySchema, req.query);
    const bringing = { store, workbookHeads, person };
    res.json(await bringTableFile(knex, await readStructure(), bringing, { id, stream: req, name }));
  });
  router.post(OPERATIONS.bringSheet.path, async (req, res) => {
    const { name: person } = editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    const { sheet } = readRequest(sheetTableSchema, req.body);
    const bringing = { store, workbookHeads, person };
    res.json(await bringTableSheet(knex, await readStructure(), bringing, { id, sheet }));
  });
  router.delete(OPERATIONS.discardDraft.path, async (req, res) => {
    editor(res);
    await discardDraft(knex, store, readRequest(idParamSchema, req.params["draft"]));
    res.status(204).end();
  });
  router.post(OPERATIONS.checkDraft.path, async (req, res) => {
    const { name: person } = editor(res);
    res.json(await readJob(knex, await startCheck(jobs, readRequest(idParamSchema, req.params["draft"]), person)));
  });
  router.post(OPERATIONS.postDraft.path, async (req, res) => {
    const { name: person } = editor(res);
    const { version } = readRequest(draftVersionSchema, req.body);
    res.json(
      await readJob(knex, await startPost(jobs, readRequest(idParamSchema, req.params["draft"]), version, person)),
    );
  });
  router.get(OPERATIONS.draftRejected.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    await downloads.send(res, {
      fileName: `rejected-lines-${id}.csv`,
      type: "text/csv; charset=utf-8",
      person: personOf(res),
      // Reading a file takes as long as it is: that is no work for the server's own process.
      write: (to, signal) =>
        processes.run({ kind: "rejected", ...place, draftId: id, to }, { signal }).then(() => undefined),
    });
  });
  router.get(OPERATIONS.job.path, async (req, res) => {
    editor(res);
    res.json(await readJob(knex, readRequest(idParamSchema, req.params["job"])));
  });
  router.delete(OPERATIONS.cancelJob.path, async (req, res) => {
    editor(res);
    res.json(await cancelJob(jobs, readRequest(idParamSchema, req.params["job"])));
  });
  router.get(OPERATIONS.intakes.path, async (_req, res) => {
    editor(res);
    res.json(await listIntakes(knex));
  });
  router.delete(OPERATIONS.forgetIntake.path, async (req, res) => {
    editor(res);
    await forgetIntake(knex, readRequest(idParamSchema, req.params["intake"]));
    res.status(204).end();
  });
  return router;
}
