import type { Knex } from "knex";
import type { Report } from "#contract/intake.ts";
import type { Structure } from "#server/db/structure.ts";
import { noteChange } from "#server/db/data-version.ts";
import { convertAnew, coverRates, lockRates, ratesDataset, storeRates } from "#server/facts/currency-rates.ts";
import type { FileStore } from "../file-store.ts";
import { mappingView } from "../mapping-view.ts";
import {
  keptReport,
  postedBatches,
  rememberIntake,
  requireSame,
  storeRejected,
  type PostingPass,
} from "./posting-pass.ts";
import type { DraftRecord } from "./draft.ts";

/** Posts a draft of rates in the given transaction, and converts anew what they are the rates of. */
export async function postRates(
  trx: Knex.Transaction,
  store: FileStore,
  {
    draft,
    report,
    structure,
    person,
    jobId,
  }: {
    readonly draft: DraftRecord;
    readonly report: Report;
    readonly structure: Structure;
    readonly person: string;
    readonly jobId: number;
  },
  onProgress: PostingPass["onProgress"],
): Promise<{ loadId: number; rows: number }> {
  await lockRates(trx, "alone");
  const [load]: { id: number }[] = await trx("load")
    .insert({
      dataset_id: await ratesDataset(trx),
      file_name: draft.file.name,
      posted_by: person,
      posted_at: new Date(),
      rows: 0,
      file_id: draft.file.id,
      intake_id: await rememberIntake(trx, draft, person),
    })
    .returning("id");
  const loadId = load!.id;
  const pass: PostingPass = { rejected: [], outcome: {}, onProgress };
  const { priced } = draft.definition.rules.mapping;
  const rows = await storeRates(
    trx,
    // Without it the draft is not complete, and was refused.
    { loadId, priced: priced! },
    postedBatches(store, draft, mappingView(structure), pass),
  );
  const result = pass.outcome.result!;
  requireSame(result, report);
  await coverRates(trx, { loadId, rows }, result.months);
  await storeRejected(trx, loadId, pass.rejected);
  await convertAnew(trx);
  await noteChange(trx);
  await trx("load")
    .where({ id: loadId })
    .update({ rejected: result.faults.reduce((sum, group) => sum + group.count, 0), report: keptReport(report) });
  await trx("job").where({ id: jobId }).update({ state: "done", load_id: loadId, rows, share: 1 });
  await trx("draft").where({ id: draft.id }).delete();
  return { loadId, rows };
}
