import { Router, type Response } from "express";
import type { Knex } from "knex";
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
import { isCheckOutdated } from "#server/intake/drafts/check-draft.ts";
import { lastJob, readJob } from "#server/intake/jobs/job-record.ts";
import type { Jobs } from "#server/intake/jobs/jobs.ts";
import { rejectedOfDraft } from "#server/intake/rejected.ts";
import { answerCsv } from "../csv.ts";
import { readerOf } from "./session-routes.ts";

/** Files on their way in, and the ways in that are remembered. */
export function draftRoutes({
  knex,
  readStructure,
  jobs,
  store,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
  jobs: Jobs;
  store: FileStore;
}): Router {
  const router = Router();
  const workbookHeads: WorkbookHeads = (path, request) => jobs.threads.run({ kind: "head", store, path, request });
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
    await jobs.check(id, person);
    await answer(res, id);
  });
  router.get(OPERATIONS.draft.path, async (req, res) => {
    const { name: person } = editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    // What was posted or changed meanwhile counts: nobody is to read a check that no longer holds.
    const last = await lastJob(knex, id);
    if (last?.kind === "check" && last.state === "done" && (await isCheckOutdated(knex, id)))
      await jobs.check(id, person);
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
    await jobs.check(id, person);
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
    res.json(await readJob(knex, await jobs.check(readRequest(idParamSchema, req.params["draft"]), person)));
  });
  router.post(OPERATIONS.postDraft.path, async (req, res) => {
    const { name: person } = editor(res);
    const { version } = readRequest(draftVersionSchema, req.body);
    res.json(await readJob(knex, await jobs.post(readRequest(idParamSchema, req.params["draft"]), version, person)));
  });
  router.get(OPERATIONS.draftRejected.path, async (req, res) => {
    editor(res);
    const id = readRequest(idParamSchema, req.params["draft"]);
    await answerCsv(res, `rejected-lines-${id}.csv`, rejectedOfDraft(knex, store, id));
  });
  router.get(OPERATIONS.job.path, async (req, res) => {
    editor(res);
    res.json(await readJob(knex, readRequest(idParamSchema, req.params["job"])));
  });
  router.delete(OPERATIONS.cancelJob.path, async (req, res) => {
    editor(res);
    res.json(await jobs.cancel(readRequest(idParamSchema, req.params["job"])));
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
