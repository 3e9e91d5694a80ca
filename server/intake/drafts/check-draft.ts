import type { Knex } from "knex";
import { monthsName } from "#core/calendar/fiscal-calendar.ts";
import { overlapping } from "#core/checks/already-posted.ts";
import { checkLoad, mayPost } from "#core/checks/check-load.ts";
import { totalRowControl } from "#core/checks/control-total.ts";
import type { LoadResult } from "#core/checks/load-run.ts";
import { mappingProblems } from "#core/mapping/map-rows.ts";
import { plannedView } from "#core/mapping/mapping-view.ts";
import { bigDecimalText } from "#core/figures/exact-sum.ts";
import { columnsThrough, watchedColumns } from "#core/tidy/tidy-run.ts";
import { inWriting } from "#core/formats/writing.ts";
import type { Report } from "#contract/intake.ts";
import { readDataVersion, type DataVersion } from "#server/db/data-version.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { filePath, type FileStore } from "../file-store.ts";
import { mappingView } from "../mapping-view.ts";
import { readRates } from "#server/facts/currency-rates.ts";
import { readContents, readHistory, readPostedBefore, readPostedSlices } from "../posted.ts";
import { finalColumns, headTable, tidyContext } from "./detect.ts";
import { readDraft } from "./draft-record.ts";
import { passFile, type Progress } from "./run-file.ts";
import type { DraftRecord } from "./draft.ts";

/** Lines left out that are kept with a load, to be looked at and downloaded. */
export const MOST_REJECTED = 100_000;

/** What posting needs to know before it passes over the file: what comes to the structure, and which slices it meets. */
export type Additions = Pick<LoadResult, "newMembers" | "newAccounts" | "months"> & {
  readonly accounts: readonly Pick<LoadResult["accounts"][number], "scenario" | "account">[];
};

/** Checks a draft's whole file and stores the report with it. */
export async function checkDraft(
  knex: Knex,
  store: FileStore,
  id: number,
  onProgress: (progress: Progress) => void,
): Promise<Report> {
  const draft = await readDraft(knex, id);
  const at = await readDataVersion(knex);
  const structure = await readStructure(knex);
  refuseIncomplete(draft, structure);
  const dataset = draft.definition.rules.mapping.dataset;
  const view = mappingView(structure, await readRates(knex));
  const hasReference = Object.values(draft.definition.rules.mapping.columns).some((m) => m.as === "reference");
  const posted = hasReference ? await readContents(knex, structure, dataset) : undefined;
  const pass = passFile({
    path: filePath(store, draft.file.id),
    size: draft.file.size,
    definition: draft.definition,
    view,
    tables: draft.tables,
    limits: store.limits,
    purpose: "check",
    ...(posted ? { posted } : {}),
    onProgress,
  });
  let step = await pass.next();
  while (!step.done) step = await pass.next();
  const report = await reportOn(knex, structure, draft, step.value);
  // Only while nobody changed the draft meanwhile: a report belongs to one definition.
  await knex("draft")
    .where({ id, version: draft.version })
    .update({
      report: storableJson(report),
      additions: storableJson({ ...additionsOf(step.value), at: checkedAgainst(at) }),
    });
  return report;
}

/** Whether something that files are checked against was changed since a draft was checked, by this person or another. */
export function isCheckOutdated({ report, checkedAgainst: at }: DraftRecord, now: DataVersion): boolean {
  return report !== null && at !== checkedAgainst(now);
}

/** The state of what files are checked against: what is posted, and the structure. A page that is edited is none of it. */
function checkedAgainst({ facts, structure }: DataVersion): string {
  return `${facts}/${structure}`;
}

/** What of a pass's result is kept for posting. */
export function additionsOf({ newMembers, newAccounts, months, accounts }: LoadResult): Additions {
  const places = new Map(
    accounts.map(({ scenario, account }) => [JSON.stringify([scenario, account]), { scenario, account }]),
  );
  return { newMembers, newAccounts, months, accounts: [...places.values()] };
}

/** JSON without the NUL that PostgreSQL does not keep. */
export function storableJson(value: unknown): string {
  return JSON.stringify(value).replaceAll("\\u0000", "");
}

/** Throws a problem when the steps or the meanings are not complete yet. */
export function refuseIncomplete(draft: DraftRecord, structure: Structure): void {
  const view = mappingView(structure);
  const { columns } = headTable(draft.detected.head, draft.definition.reading);
  const { problem } = columnsThrough(draft.definition.rules.steps, columns, tidyContext(draft, view));
  if (problem) throw new ProblemError("cannot-post", `Tidy step ${problem.step + 1}: ${problem.message}`);
  const missing = mappingProblems(draft.definition.rules.mapping, finalColumns(columns, draft, view), view);
  if (missing[0]) throw new ProblemError("cannot-post", missing[0]);
}

/** Puts a pass's result beside what is posted, and words it. */
export async function reportOn(
  knex: Knex,
  structure: Structure,
  draft: DraftRecord,
  result: LoadResult,
): Promise<Report> {
  const { rules, answers, reading } = draft.definition;
  const view = mappingView(structure);
  const { dataset } = rules.mapping;
  const { columns } = headTable(draft.detected.head, reading);
  const stages = [columns, ...result.effects.map((effect) => effect.columns)];
  const amountColumns = Object.entries(rules.mapping.columns).flatMap(([name, m]) => (m.as === "amount" ? [name] : []));
  const control =
    answers.control ??
    totalRowControl(rules.steps, result.effects, {
      columns: stages,
      amountColumns: watchedColumns(rules.steps, amountColumns),
      mark: reading.decimalMark,
    });
  const posted = await readPostedSlices(knex, dataset);
  const before =
    overlapping(result, posted).length > 0
      ? await readPostedBefore(knex, structure, dataset, result.months)
      : undefined;
  const history = await readHistory(knex, structure, dataset);
  const context = {
    view,
    rules,
    answers,
    control,
    posted,
    before,
    history,
  };
  const findings = inWriting(structure, () => checkLoad(result, context));
  const planned = plannedView(view, rules.mapping);
  const accounts = new Map([...planned.accounts, ...result.newAccounts].map((a) => [a.key, a]));
  const totals = new Map<string, { name: string; kind: string; rows: number; amount: bigint; decimals: number }>();
  for (const { account, scenario, rows, amount } of result.accounts) {
    const own = accounts.get(account)!;
    const name = result.months.some((m) => m.scenario !== scenario)
      ? `${own.name}, ${planned.scenarios.find((s) => s.key === scenario)?.name ?? scenario}`
      : own.name;
    const entry = totals.get(name) ?? {
      name,
      kind: own.unit.kind === "money" ? own.kind : own.unit.of,
      rows: 0,
      amount: 0n,
      decimals: own.decimals,
    };
    entry.rows += rows;
    entry.amount += amount;
    totals.set(name, entry);
  }
  const order = new Map([...accounts.keys()].map((key, i) => [accounts.get(key)!.name, i]));
  return {
    version: draft.version,
    before: result.before,
    effects: result.effects.map((effect) => ({
      ...effect,
      columns: [...effect.columns],
      examples: effect.examples.map((e) => ({
        line: e.line,
        before: [...e.before],
        after: e.after.map((a) => [...a]),
      })),
    })),
    facts: result.facts,
    rejected: result.faults.reduce((sum, group) => sum + group.count, 0),
    amountInFile: result.amountInFile,
    amountInFacts: result.amountInFacts,
    months: monthsName(view.calendar, [...new Set(result.months.map((m) => m.month))]),
    scenarios: [
      ...new Set(result.months.map((m) => planned.scenarios.find((s) => s.key === m.scenario)?.name ?? m.scenario)),
    ].join(", "),
    totals: [...totals.values()]
      .sort((a, b) => (order.get(a.name.split(", ")[0]!) ?? 0) - (order.get(b.name.split(", ")[0]!) ?? 0))
      .slice(0, 500)
      .map(({ name, kind, rows, amount, decimals }) => ({
        name,
        kind,
        rows,
        amount: bigDecimalText(amount, decimals),
      })),
    findings: findings.map((f) => ({
      ...f,
      lines: f.lines.map((l) => ({ line: l.line, column: l.column, value: l.value, cells: [...l.cells] })),
      names: f.names.map((n) => ({ ...n, proposals: [...n.proposals] })),
    })),
    mayPost: mayPost(findings),
  };
}
