import type { DRAFTS } from "#contract/operations/drafts.ts";
import type { Structure } from "#server/db/structure.ts";
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
import type { Routes } from "../serve-operations.ts";

/** Files on their way in, and the ways in that are remembered. */
export function draftRoutes({
  knex,
  company,
  readStructure,
  store,
  place,
  quickly,
  processes,
}: JobsPlace & {
  readStructure: () => Promise<Structure>;
  store: FileStore;
  place: TaskPlace;
  /** For what somebody waits for at their screen. */
  quickly: IntakeProcesses;
  processes: IntakeProcesses;
}): Routes<typeof DRAFTS> {
  const jobs: JobsPlace = { knex, company };
  const workbookHeads: WorkbookHeads = (path, request) => quickly.run({ kind: "head", store, path, request });
  const describe = async (id: number) => describeDraft(knex, await readStructure(), id);
  return {
    drafts: () => listDrafts(knex),
    openDraft: async ({ req, query: { name }, reader: { name: person } }) => {
      const file = await storeFile(knex, store, { stream: req, name, person });
      const id = await openDraft(knex, await readStructure(), file, { limits: store.limits, workbookHeads });
      await startCheck(jobs, id, person);
      return describe(id);
    },
    draft: ({ params }) => describe(params.draft),
    changeDraft: async ({ params: { draft: id }, body, reader }) => {
      await changeDraft(knex, await readStructure(), { store, workbookHeads }, { id, ...body });
      await startCheck(jobs, id, reader.name);
      return describe(id);
    },
    bringTable: async ({ req, params, query: { name }, reader }) => {
      const bringing = { store, workbookHeads, person: reader.name };
      return bringTableFile(knex, await readStructure(), bringing, { id: params.draft, stream: req, name });
    },
    bringSheet: async ({ params, body: { sheet }, reader }) => {
      const bringing = { store, workbookHeads, person: reader.name };
      return bringTableSheet(knex, await readStructure(), bringing, { id: params.draft, sheet });
    },
    discardDraft: ({ params }) => discardDraft(knex, store, params.draft),
    checkDraft: async ({ params, reader }) => readJob(knex, await startCheck(jobs, params.draft, reader.name)),
    postDraft: async ({ params, body, reader }) =>
      readJob(knex, await startPost(jobs, params.draft, body.version, reader.name)),
    draftRejected: ({ params: { draft: draftId } }) => ({
      fileName: `rejected-lines-${draftId}.csv`,
      type: "text/csv; charset=utf-8",
      // Reading a file takes as long as it is: that is no work for the server's own process.
      write: (to, signal) =>
        processes.run({ kind: "rejected", ...place, draftId, to }, { signal }).then(() => undefined),
    }),
    job: ({ params }) => readJob(knex, params.job),
    cancelJob: ({ params }) => cancelJob(jobs, params.job),
    intakes: () => listIntakes(knex),
    forgetIntake: ({ params }) => forgetIntake(knex, params.intake),
  };
}
