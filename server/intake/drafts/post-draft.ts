import { tryLock } from "#server/db/locks.ts";
import { inWriting } from "#core/words/writing.ts";
import { pluralName } from "#core/words/plural-name.ts";
import { setImmediate as nextTurn } from "node:timers/promises";
import type { Knex } from "knex";
import { standingChanges } from "#core/alerts/standing.ts";
import { overlapping } from "#core/checks/already-posted.ts";
import type { NewMember } from "#core/mapping/map-rows.ts";
import { bringsRates, plannedView } from "#core/mapping/mapping-view.ts";
import { mappedDimensions } from "#core/mapping/mapping.ts";
import { depthFirst } from "#core/structure/tree-edit.ts";
import type { Report } from "#contract/intake.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { unusualFigures, watchedKpis, type UnusualFigure } from "#core/alerts/unusual-figures.ts";
import { standingsNow } from "#core/alerts/standings-now.ts";
import { figuresNow, movedFigures, type Touched } from "#core/alerts/moved-figures.ts";
import { askAll } from "#server/facts/workspace.ts";
import type { LoadAlerts } from "../loads/alerts.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { addFirstLook } from "#server/packs/first-look.ts";
import { addDimension } from "#server/structure/add.ts";
import { changeAccounts, changeMembers } from "#server/structure/change-structure.ts";
import type { FileStore } from "../file-store.ts";
import { broughtBetween, type Brought } from "../loads/brought.ts";
import { setSlicesAside } from "../loads/set-aside.ts";
import { mappingView } from "../mapping-view.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { openLoad, postFacts } from "../post-facts.ts";
import { readPostedSlices, type InForceSlice } from "../posted.ts";
import { refuseIncomplete, type Additions } from "./check-draft.ts";
import { readDraft, type DraftRecord } from "./draft-record.ts";
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
import { lockRates, readRates } from "#server/facts/currency-rates.ts";
import { noteChange } from "#server/db/data-version.ts";

/** What posting answers. */
export interface Posted {
  readonly loadId: number;
  readonly rows: number;
}

/**
 * Posts a draft in one transaction: new structure, what it replaces, its facts by COPY,
 * lines left out, what moved, and the intake remembered. The file is passed over once
 * more by the same path as its check, and must give the same result; whatever fails,
 * nothing is posted. One posting per dataset goes on at a time.
 */
export async function postDraft(
  knex: Knex,
  store: FileStore,
  { id, version, person, jobId }: { id: number; version: number; person: string; jobId: number },
  onProgress: (progress: Progress) => void,
): Promise<Posted> {
  return knex.transaction(async (trx) => {
    await trx.raw("set local idle_in_transaction_session_timeout = 0");
    const draft = await readDraft(trx, id);
    await claim(trx, draft.definition.rules.mapping.dataset);
    const report = requirePostable(draft, version);
    const before = await readStructure(trx);
    refuseIncomplete(draft, before);
    if (bringsRates(draft.definition.rules.mapping))
      return postRates(trx, store, { draft, report, structure: before, person, jobId }, onProgress);
    const slices = await readPostedSlices(trx, draft.definition.rules.mapping.dataset);

    const planned = await readAdditions(trx, id);
    const structure = await addStructure(trx, draft, before, planned, person);
    const brought: { -readonly [Part in keyof Brought]: Brought[Part] } = broughtBetween(before, structure);
    const touched = touchedBy(planned);
    const figuresBefore = await askAll(trx, before, (cells) => figuresNow(before, touched, cells));
    const standingsBefore = await askAll(trx, before, (cells) => standingsNow(before, cells));
    const replaced = replacedSlices(draft, planned, slices);

    const converts = report.findings.some(({ rule }) => rule === "converted");
    const load = await openLoad(trx, {
      dataset: draft.definition.rules.mapping.dataset,
      fileName: draft.file.name,
      postedBy: person,
      postedAt: new Date(),
      fileId: draft.file.id,
      intakeId: await rememberIntake(trx, draft, person),
      dimensions: mappedDimensions(draft.definition.rules.mapping),
      converts,
    });
    await setSlicesAside(trx, load.id, replaced);
    const pass: PostingPass = { rejected: [], outcome: {}, onProgress };
    if (converts) await lockRates(trx, "shared");
    const view = mappingView(structure, converts ? await readRates(trx) : undefined);
    // Members and accounts are there now, so the same mapping finds what it would have created.
    await postFacts(trx, structure, load, postedBatches(store, draft, view, pass));
    const result = pass.outcome.result!;
    requireSame(result, report);
    await storeRejected(trx, load.id, pass.rejected);
    const after = await readStructure(trx);
    const moved = movedFigures(figuresBefore, await askAll(trx, after, (cells) => figuresNow(after, touched, cells)));
    await trx("load")
      .where({ id: load.id })
      .update({
        rejected: result.faults.reduce((sum, group) => sum + group.count, 0),
        report: keptReport(report),
        moved: JSON.stringify(moved),
        alerts: JSON.stringify({
          ...(await alertsOf(trx, after, standingsBefore)),
          unusual: await unusualIn(trx, after, touched, draft.definition.rules.mapping.dataset),
        } satisfies LoadAlerts),
      });
    if (
      draft.definition.rules.mapping.creates.dataset &&
      !before.coverage.datasets.has(draft.definition.rules.mapping.dataset)
    ) {
      Object.assign(brought, await addFirstLook(trx, after, draft.definition.rules.mapping));
    }
    await trx("load")
      .where({ id: load.id })
      .update({ brought: JSON.stringify({ ...brought, sign: draft.definition.rules.mapping.sign }) });
    // With the facts, or not at all: however the server ends, the job says what happened.
    await trx("job").where({ id: jobId }).update({ state: "done", load_id: load.id, rows: result.facts, share: 1 });
    await trx("draft").where({ id }).delete();
    return { loadId: load.id, rows: result.facts };
  });
}

async function claim(trx: Knex.Transaction, dataset: string): Promise<void> {
  if (!(await tryLock(trx, "dataset", { of: dataset }))) {
    throw new ProblemError(
      "someone-posting",
      "Another file is being posted to this dataset at the moment. Wait until it is done; what it brings is then checked together with this file.",
    );
  }
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

async function addStructure(
  trx: Knex.Transaction,
  draft: DraftRecord,
  structure: Structure,
  additions: Additions,
  person: string,
): Promise<Structure> {
  const { mapping } = draft.definition.rules;
  const planned = plannedView(mappingView(structure), mapping);
  const changer = { by: person, said: `Came with ${draft.file.name}` };
  for (const { key, name } of mapping.creates.dimensions) {
    if (structure.dimensions.some((d) => d.key === key) || !mappedDimensions(mapping).includes(key)) continue;
    await addDimension(trx, { key, name, plural: pluralName(name) });
  }
  if (!structure.coverage.datasets.has(mapping.dataset)) {
    const shape = planned.datasets.find((d) => d.key === mapping.dataset)!;
    const [row]: { id: number }[] = await trx("dataset")
      .insert({
        key: shape.key,
        name: shape.name,
        grain: shape.grain,
        dimensions: [...shape.dimensions],
        position: trx.raw("(select coalesce(max(position), -1) + 1 from dataset)"),
        closes: structure.coverage.datasets.size === 0,
      })
      .returning("id");
    await createPartition(trx, row!.id);
  }
  const known = structure.accounts.accounts;
  const used = withAncestors(
    mapping.creates.accounts,
    additions.accounts.map(({ account }) => account),
  );
  const accounts = [
    // A guess that was changed before posting leaves nothing behind.
    ...mapping.creates.accounts
      .filter((a) => !known.has(a.key) && used.has(a.key))
      .map((a) => ({ ...a, parent: a.parent ?? null })),
    ...additions.newAccounts,
  ];
  if (accounts.length > 0) {
    await changeAccounts(trx, changer, (items) =>
      depthFirst([...items, ...accounts.map((a) => ({ ...a, aliases: [], isRetired: false }))]),
    );
  }
  const byDimension = new Map<string, NewMember[]>();
  for (const member of additions.newMembers)
    byDimension.set(member.dimension, [...(byDimension.get(member.dimension) ?? []), member]);
  for (const [dimension, members] of byDimension) {
    await changeMembers(trx, changer, dimension, (items) =>
      depthFirst([
        ...items,
        ...members.map(({ key, name, parent }) => ({
          key,
          name,
          parent,
          aliases: [],
          isRetired: false,
          attributes: {},
          firstMonth: null,
          lastMonth: null,
        })),
      ]),
    );
  }
  await noteChange(trx);
  return readStructure(trx);
}

/** Accounts with those that sum them. */
function withAncestors(
  brought: readonly { readonly key: string; readonly parent?: string | null | undefined }[],
  keys: readonly string[],
): ReadonlySet<string> {
  const parents = new Map(brought.map(({ key, parent }) => [key, parent ?? null]));
  const found = new Set<string>();
  for (const key of keys)
    for (let at: string | null = key; at !== null && !found.has(at); at = parents.get(at) ?? null) found.add(at);
  return found;
}

async function alertsOf(
  trx: Knex.Transaction,
  structure: Structure,
  before: ReturnType<typeof standingsNow>,
): Promise<LoadAlerts> {
  const after = await askAll(trx, structure, (cells) => standingsNow(structure, cells));
  const since = before.month === after.month || before.month === "" ? "" : `, after ${before.month}`;
  return {
    words: `${after.month} and year to date${since}`,
    changes: standingChanges(before.standings, after.standings),
  };
}

/** What of the load is out of the ordinary, the farthest first; others are served between one KPI and the next. */
async function unusualIn(
  trx: Knex.Transaction,
  structure: Structure,
  touched: readonly Touched[],
  dataset: string,
): Promise<UnusualFigure[]> {
  const isByDay = structure.coverage.datasets.get(dataset)?.grain === "day";
  const watched = await askAll(trx, structure, (cells) => watchedKpis(structure, touched, isByDay, cells));
  const found: UnusualFigure[] = [];
  for (const one of watched) {
    await nextTurn();
    found.push(...inWriting(structure, () => unusualFigures(one, structure)));
  }
  return found.sort((a, b) => Math.abs(b.worst) - Math.abs(a.worst));
}

async function readAdditions(trx: Knex.Transaction, id: number): Promise<Additions> {
  const row: { additions: Additions } | undefined = await trx("draft").where({ id }).first("additions");
  return row!.additions;
}

function touchedBy({ months, accounts }: Additions): Touched[] {
  return [...new Set(months.map((m) => m.scenario))].map((scenario) => ({
    scenario,
    months: months.filter((m) => m.scenario === scenario).map((m) => m.month),
    accounts: new Set(accounts.filter((a) => a.scenario === scenario).map((a) => a.account)),
  }));
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
