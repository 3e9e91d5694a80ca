import type { Knex } from "knex";
import { statedControl } from "#core/checks/control-total.ts";
import { mappingProblems } from "#core/mapping/map-rows.ts";
import { profileColumns } from "#core/reading/column-profile.ts";
import { columnsThrough, tidyTable, type StepEffect } from "#core/tidy/tidy-run.ts";
import { sayStep } from "#core/tidy/steps/index.ts";
import type { TidyRow } from "#core/tidy/row.ts";
import type { Draft, DraftHead, WireEffect, WireRow } from "#contract/intake.ts";
import { readDataVersion } from "#server/db/data-version.ts";
import type { Structure } from "#server/db/structure.ts";
import { lastJob } from "../jobs/job-record.ts";
import { mappingView } from "../mapping-view.ts";
import { isCheckOutdated } from "./check-draft.ts";
import { headTable, tidyContext } from "./detect.ts";
import { readDraft } from "./draft-record.ts";

/** Rows of the head that go over the wire. */
const ROWS_SHOWN = 120;

/** A draft as its page shows it: guesses, first rows before and after the steps, what is missing, the last check. */
export async function describeDraft(knex: Knex, structure: Structure, id: number): Promise<Draft> {
  // The job first: when it says that it is done, its report is in the draft that is read after it.
  const job = await lastJob(knex, id);
  const draft = await readDraft(knex, id);
  const view = mappingView(structure);
  const { definition } = draft;
  const { steps, mapping } = definition.rules;
  const context = tidyContext(draft, view);
  const table = headTable(draft.detected.head, definition.reading);
  const through = columnsThrough(steps, table.columns, context);
  const runnable = through.problem ? steps.slice(0, through.problem.step) : steps;
  const values = Object.entries(mapping.columns).flatMap(([name, m]) =>
    m.as === "amount" || m.as === "quantity" ? [name] : [],
  );
  const tidied = tidyTable(runnable, { columns: table.columns, rows: table.rows }, context, values);
  const final = through.columns.at(-1) ?? table.columns;
  const stated = statedControl(
    table.preamble.map((row) => row.cells),
    definition.reading.decimalMark,
  );
  const intake: { id: number; name: string } | undefined =
    draft.intakeId === null ? undefined : await knex("intake").where({ id: draft.intakeId }).first("id", "name");
  return {
    id: draft.id,
    fileName: draft.file.name,
    size: draft.file.size,
    uploadedAt: draft.file.uploadedAt.toISOString(),
    uploadedBy: draft.file.uploadedBy,
    version: draft.version,
    intake: intake ?? null,
    intakeName: draft.intakeName,
    definition,
    sheets: [...draft.detected.sheets],
    hiddenSheets: [...(draft.detected.hidden ?? [])],
    stackable: [...(draft.detected.stackable ?? [])],
    tables: [...draft.tables.values()].map(({ key, name, columns, rows }) => ({
      key,
      name,
      columns: [...columns],
      rows: rows.length,
    })),
    preamble: table.preamble.map(wireRow),
    columns: [...table.columns],
    stages: through.columns.map((columns) => [...columns]),
    stepWords: steps.map(sayStep),
    stepProblem: through.problem,
    mappingProblems: through.problem ? [] : mappingProblems(mapping, final, view),
    profiles: profileColumns(
      tidied.table.columns,
      tidied.table.rows.map((row) => row.cells),
      view.calendar,
    ).map((p) => ({
      name: p.name,
      type: p.type,
      filled: p.filled,
      distinct: p.distinct,
      isCertain: p.isCertain,
      examples: [...p.examples],
    })),
    sample: {
      raw: table.rows.slice(0, ROWS_SHOWN).map(wireRow),
      tidied: tidied.table.rows.slice(0, ROWS_SHOWN).map(wireRow),
      effects: tidied.effects.map(wireEffect),
    },
    control: stated === null ? null : { amount: stated, from: "the lines above the header" },
    job,
    report: draft.report,
    isOutdated: isCheckOutdated(draft, await readDataVersion(knex)),
    note: draft.note,
  };
}

/** Files that are on their way in. */
export async function listDrafts(knex: Knex): Promise<DraftHead[]> {
  const rows: { id: number; name: string; uploaded_at: Date; uploaded_by: string; note: string | null }[] = await knex(
    "draft",
  )
    .join("file", "file.id", "draft.file_id")
    .orderBy("draft.id", "desc")
    .select("draft.id", "file.name", "file.uploaded_at", "file.uploaded_by", "draft.note");
  return rows.map((row) => ({
    id: row.id,
    fileName: row.name,
    uploadedAt: row.uploaded_at.toISOString(),
    uploadedBy: row.uploaded_by,
    note: row.note,
  }));
}

function wireRow(row: TidyRow): WireRow {
  return { line: row.line, cells: [...row.cells] };
}

function wireEffect(effect: StepEffect): WireEffect {
  return {
    ...effect,
    columns: [...effect.columns],
    examples: effect.examples.map((e) => ({
      line: e.line,
      before: [...e.before],
      after: e.after.map((cells) => [...cells]),
    })),
  };
}
