import type { Knex } from "knex";
import { overlapping } from "#core/checks/already-posted.ts";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import type { CurrencyRates } from "#core/currency/rate.ts";
import type { Report } from "#contract/intake.ts";
import { noteChange, noteFactChange, readDataVersion } from "#server/db/data-version.ts";
import { lock } from "#server/db/locks.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { lockRates, readRates } from "#server/facts/currency-rates.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { insertDimension } from "#server/structure/add.ts";
import { addItems } from "#server/structure/change-structure.ts";
import { enqueue } from "#server/work/work-queue.ts";
import type { FileStore } from "../file-store.ts";
import type { Brought } from "../loads/brought.ts";
import { standBefore, type StoodBefore } from "../loads/follow-up.ts";
import { noteMoved, setSlicesAside } from "../loads/set-aside.ts";
import { mappingView } from "../mapping-view.ts";
import { copyFacts, coverLoad, moveFacts, type CoverageTally, type OpenLoad } from "../post-facts.ts";
import { planPosting, requireStillSo, type PostingPlan } from "../posting/plan-posting.ts";
import {
  attachPartition,
  createStaging,
  dropStaging,
  makeReady,
  onConnection,
  requireArrived,
} from "../posting/staging.ts";
import { readPostedSlices, type InForceSlice } from "../posted.ts";
import { refuseIncomplete, type Additions } from "./check-draft.ts";
import { readDraft } from "./draft-record.ts";
import type { Progress } from "./run-file.ts";
import { postRates } from "./post-rates.ts";
import {
  keptReport,
  postedBatches,
  rememberIntake,
  requireSame,
  storeRejected,
  type PostingPass,
} from "./posting-pass.ts";
import type { DraftRecord } from "./draft.ts";

/** What posting answers. */
export interface Posted {
  readonly loadId: number;
  readonly rows: number;
}

/** Who posts which version of a draft, in which job of which company. */
export interface PostingOrder {
  readonly id: number;
  readonly version: number;
  readonly person: string;
  readonly jobId: number;
  readonly company: string;
}

/** The file is read in so much of the time that a posting takes; the rest is to bring its facts where they count. */
const READING = 0.8;

/**
 * Posts a draft by stages. Its facts are gathered in a table of their own, by the same path as its check, and must give the
 * same result; what they will need of the structure is planned, and nothing of it made. Then one transaction brings all of
 * it in: facts, what they replace, new structure, the load. Nobody waits for a posting: what others change too is locked at
 * the end of that transaction only, the version of the data last. What follows from the load is worked out after it.
 * Whatever fails, nothing is posted. Of a dataset one posting goes on at a time.
 */
export async function postDraft(
  knex: Knex,
  store: FileStore,
  order: PostingOrder,
  onProgress: (progress: Progress) => void,
): Promise<Posted> {
  const draft = await readDraft(knex, order.id);
  const report = requirePostable(draft, order.version);
  const at = await readDataVersion(knex);
  const before = await readStructure(knex, at);
  refuseIncomplete(draft, before);
  const { mapping } = draft.definition.rules;
  if (bringsRates(mapping))
    return knex.transaction((trx) => postRates(trx, store, { draft, report, structure: before, ...order }, onProgress));
  const additions = await readAdditions(knex, order.id);
  const plan = await planPosting(knex, draft, before, additions);
  const isNew = plan.dataset !== null;
  const stood = await standBefore(knex, before, additions, {
    dataset: mapping.dataset,
    mapping: isNew && mapping.creates.dataset ? mapping : null,
  });
  const rates = report.findings.some(({ rule }) => rule === "converted") ? await readRates(knex) : null;
  const load: OpenLoad = {
    id: plan.loadId,
    datasetId: plan.datasetId,
    grain: plan.structure.coverage.datasets.get(mapping.dataset)!.grain,
    fileName: draft.file.name,
    slots: plan.structure.ids.slots.get(mapping.dataset)!,
    converts: rates !== null,
  };
  const pass: PostingPass = {
    rejected: [],
    outcome: {},
    onProgress: ({ rows, share }) => onProgress({ rows, share: READING * share }),
  };
  const table = await createStaging(knex, order.jobId, { isToStay: isNew });
  try {
    const batches = postedBatches(store, draft, mappingView(plan.structure, rates ?? undefined), pass);
    const tally = await onConnection(knex, (connection) =>
      copyFacts(connection, table, { structure: plan.structure, load, batches }),
    );
    requireSame(pass.outcome.result!, report);
    await requireArrived(knex, table, tally);
    onProgress({ rows: tally.rows, share: READING });
    if (isNew) await makeReady(knex, table, plan.datasetId);
    const posting: Posting = { order, draft, report, additions, plan, load, table, tally, pass, rates, stood, before };
    await knex.transaction((trx) => bringIn(trx, posting, at.facts));
    return { loadId: plan.loadId, rows: tally.rows };
  } finally {
    await dropStaging(knex, order.jobId).catch(() => undefined);
  }
}

/** All that is known of a posting when its facts are gathered. */
interface Posting {
  readonly order: PostingOrder;
  readonly draft: DraftRecord;
  readonly report: Report;
  readonly additions: Additions;
  readonly plan: PostingPlan;
  readonly load: OpenLoad;
  readonly table: string;
  readonly tally: CoverageTally;
  readonly pass: PostingPass;
  /** What amounts were converted with; `null` where none were. */
  readonly rates: CurrencyRates | null;
  readonly stood: StoodBefore;
  readonly before: Structure;
}

/** Brings gathered facts in, with all that belongs to them, or nothing. What takes long comes before what others wait for. */
async function bringIn(trx: Knex.Transaction, posting: Posting, factsThen: string): Promise<void> {
  const { order, draft, report, additions, plan, load, table, tally, pass, rates, before } = posting;
  const { mapping } = draft.definition.rules;
  await lock(trx, "dataset", { of: mapping.dataset });
  await requireUnchangedDraft(trx, draft);
  if (rates) await requireSameRates(trx, rates);
  const replaced = replacedSlices(draft, additions, await readPostedSlices(trx, mapping.dataset));
  // What was posted meanwhile is none of what this load moves.
  const stood = (await readDataVersion(trx)).facts === factsThen ? posting.stood : await standAgain(trx, posting);
  const isNew = plan.dataset !== null;
  if (!isNew) await moveFacts(trx, { from: table, to: `fact_${plan.datasetId}`, converts: load.converts });
  await insertLoad(trx, posting, await rememberIntake(trx, draft, order.person));
  await setSlicesAside(trx, load.id, replaced);
  await storeRejected(trx, load.id, pass.rejected);
  const brought: Brought = {
    datasets: plan.dataset ? [plan.dataset.key] : [],
    dimensions: plan.dimensions.map(({ key }) => key),
    accounts: plan.accounts.map(({ key }) => key),
    members: Object.fromEntries(
      [...plan.members]
        .filter(([dimension]) => before.ids.members.has(dimension))
        .map(([dimension, own]) => [dimension, own.map(({ key }) => key)]),
    ),
    kpis: [],
    packs: [],
  };
  await trx("load")
    .where({ id: load.id })
    .update({
      rejected: pass.outcome.result!.faults.reduce((sum, group) => sum + group.count, 0),
      report: keptReport(report),
      brought: JSON.stringify({ ...brought, sign: mapping.sign }),
      followed_up: false,
      stood_before: JSON.stringify(stood),
    });
  // With the facts, or not at all: however the server ends, the job says what happened.
  await trx("job").where({ id: order.jobId }).update({ state: "done", load_id: load.id, rows: tally.rows, share: 1 });
  await trx("draft").where({ id: order.id }).delete();
  await enqueue(trx, {
    company: order.company,
    task: "follow-up",
    subject: { load: load.id },
    once: `follow-up/${load.id}`,
  });
  if (isNew) await attachPartition(trx, table, plan.datasetId);
  await addStructure(trx, posting);
  await coverLoad(trx, load, tally);
  await noteMoved(trx, replaced);
  await noteFactChange(trx, plan.datasetId, tally.slices());
}

async function insertLoad(
  trx: Knex.Transaction,
  { order, draft, plan, tally }: Posting,
  intakeId: number,
): Promise<void> {
  if (plan.dataset) await insertDataset(trx, plan.dataset);
  await trx.raw(
    `insert into load (id, dataset_id, file_name, posted_by, posted_at, rows, file_id, intake_id) overriding system value
     values (?, ?, ?, ?, ?, ?, ?, ?)`,
    [plan.loadId, plan.datasetId, draft.file.name, order.person, new Date(), tally.rows, draft.file.id, intakeId],
  );
}

async function insertDataset(
  trx: Knex.Transaction,
  { id, key, name, grain, dimensions, closes }: NonNullable<PostingPlan["dataset"]>,
): Promise<void> {
  await trx.raw(
    `insert into dataset (id, key, name, grain, dimensions, closes, position) overriding system value
     values (?, ?, ?, ?, ?, ?, (select coalesce(max(position), -1) + 1 from dataset))`,
    [id, key, name, grain, dimensions, closes],
  );
}

/** Adds what came with the file, as it was planned; where the structure was changed meanwhile, if that is what it still is. */
async function addStructure(trx: Knex.Transaction, { order, draft, additions, plan, before }: Posting): Promise<void> {
  await lock(trx, "structure");
  const now = await readDataVersion(trx);
  if (now.structure !== before.structureVersion) requireStillSo(plan, additions, await readStructure(trx, now));
  for (const dimension of plan.dimensions) await insertDimension(trx, dimension);
  for (const slot of plan.slots) await trx("dataset_slot").insert(slot);
  const { dimensions } = plan.structure.rows.datasets.find(({ id }) => id === plan.datasetId)!;
  await trx("dataset").where({ id: plan.datasetId }).update({ dimensions });
  const { accounts, members, given } = plan;
  const isAdding = accounts.length > 0 || members.size > 0;
  if (isAdding)
    await addItems(trx, { by: order.person, said: `Came with ${draft.file.name}` }, { accounts, members, given });
  else if (plan.dimensions.length > 0 || plan.dataset) await noteChange(trx);
}

async function requireUnchangedDraft(trx: Knex.Transaction, { id, version }: DraftRecord): Promise<void> {
  const row: { version: number } | undefined = await trx("draft").where({ id }).forUpdate().first("version");
  if (row?.version === version) return;
  throw new ProblemError(
    "changed-meanwhile",
    "The draft was changed while it was posted. Nothing was posted; look at the new check and post again.",
  );
}

/** Keeps rates as they are until the transaction ends. Throws a problem where they are not those that amounts were converted with. */
async function requireSameRates(trx: Knex.Transaction, rates: CurrencyRates): Promise<void> {
  await lockRates(trx, "shared");
  const now = await readRates(trx);
  const isSame =
    now.size === rates.size &&
    [...rates].every(
      ([place, { units, priced }]) => now.get(place)?.units === units && now.get(place)?.priced === priced,
    );
  if (!isSame)
    throw new ProblemError(
      "changed-meanwhile",
      "Rates were changed while this file was posted. Nothing was posted; look at the new check and post again.",
    );
}

async function standAgain(trx: Knex.Transaction, { additions, stood }: Posting): Promise<StoodBefore> {
  return standBefore(trx, await readStructure(trx), additions, stood);
}

function requirePostable(draft: DraftRecord, version: number): Report {
  const { report } = draft;
  if (draft.version !== version || !report || report.version !== version)
    throw new ProblemError(
      "changed-meanwhile",
      "The draft was changed since it was checked. Look at the new check and post again.",
    );
  const stop = report.findings.find((f) => f.severity === "stop" && f.answer === null);
  if (stop) throw new ProblemError("cannot-post", stop.message);
  return report;
}

async function readAdditions(knex: Knex, id: number): Promise<Additions> {
  const row: { additions: Additions } | undefined = await knex("draft").where({ id }).first("additions");
  return row!.additions;
}

function replacedSlices(
  draft: DraftRecord,
  additions: Additions,
  slices: readonly InForceSlice[],
): readonly InForceSlice[] {
  const met = overlapping(additions, slices);
  if (met.length === 0 || draft.definition.answers.posting === "beside") return [];
  if (draft.definition.answers.posting === "restate") return met;
  throw new ProblemError(
    "changed-meanwhile",
    `${met[0]!.fileName} was posted for the same months meanwhile. Nothing was posted; check again, and say whether this file takes its place.`,
  );
}
