import type { Knex } from "knex";
import { definitionSchema, readingSchema, type Definition, type Report } from "#contract/intake.ts";
import { readStructure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readTables } from "../lookup-tables.ts";
import { mappingView } from "../mapping-view.ts";
import { guessReading, proposeDefinition } from "./detect.ts";
import type { Detected, DraftRecord } from "./draft.ts";

interface DraftRow {
  id: number;
  file_id: number;
  name: string;
  size: string;
  uploaded_at: Date;
  uploaded_by: string;
  intake_id: number | null;
  intake_name: string;
  definition: unknown;
  detected: Detected;
  version: number;
  report: Report | null;
  additions: { at?: string } | null;
  note: string | null;
}

/** Reads a draft. Throws a problem when there is none (any more). */
export async function readDraft(knex: Knex, id: number): Promise<DraftRecord> {
  const row: DraftRow | undefined = await knex("draft")
    .join("file", "file.id", "draft.file_id")
    .where("draft.id", id)
    .first("draft.*", "file.name", "file.size", "file.uploaded_at", "file.uploaded_by");
  if (!row)
    throw new ProblemError(
      "not-found",
      `There is no draft ${id} any more: it was posted or discarded. The load list shows what was posted.`,
    );
  const read = definitionSchema.safeParse(row.definition);
  const definition = read.success ? read.data : await proposeAgain(knex, row);
  return {
    id: row.id,
    file: {
      id: row.file_id,
      name: row.name,
      size: Number(row.size),
      uploadedAt: row.uploaded_at,
      uploadedBy: row.uploaded_by,
    },
    intakeId: row.intake_id,
    intakeName: row.intake_name,
    definition,
    tables: await readTables(knex, definition.rules.steps),
    detected: row.detected,
    version: row.version,
    report: row.report,
    checkedAgainst: row.report && (row.additions?.at ?? null),
    note: read.success ? row.note : UNREADABLE,
  };
}

const UNREADABLE =
  "Its settings were stored by another version of Hackle and cannot be read here. They were proposed again: look at them before you post.";

/** What a draft would be opened with today, from the head of its file that was kept with it. */
async function proposeAgain(knex: Knex, { definition, detected, name }: DraftRow): Promise<Definition> {
  const view = mappingView(await readStructure(knex));
  const stored = (definition as { reading?: unknown } | null)?.reading;
  const read = readingSchema.safeParse(stored);
  const base = read.success
    ? read.data
    : (detected.readWith ?? { encoding: "utf-8" as const, delimiter: ",", sheet: detected.sheets[0] ?? null });
  const reading = read.success ? read.data : guessReading(detected.head, base, view);
  return proposeDefinition(detected.head, reading, { view, fileName: name, further: detected.further });
}

/** Stores a new draft. Returns its number. */
export async function insertDraft(
  knex: Knex,
  draft: Pick<DraftRecord, "intakeId" | "intakeName" | "definition" | "detected"> & { fileId: number },
): Promise<number> {
  const [row]: { id: number }[] = await knex("draft")
    .insert({
      file_id: draft.fileId,
      intake_id: draft.intakeId,
      intake_name: draft.intakeName,
      definition: JSON.stringify(draft.definition),
      detected: storable(draft.detected),
    })
    .returning("id");
  return row!.id;
}

/**
 * Stores a change, if the draft is still at the version it was made on; the report
 * belongs to the former definition and goes. Returns the new version. Throws a
 * conflict otherwise.
 */
export async function updateDraft(
  knex: Knex,
  id: number,
  version: number,
  change: Pick<DraftRecord, "intakeName" | "definition" | "detected">,
): Promise<number> {
  const changed = await knex("draft")
    .where({ id, version })
    .update({
      intake_name: change.intakeName,
      definition: JSON.stringify(change.definition),
      detected: storable(change.detected),
      report: null,
      version: version + 1,
    });
  if (changed === 0) {
    const { version: now } = await readDraft(knex, id);
    throw new ProblemError(
      "changed-meanwhile",
      `This draft was changed in another window (it is at version ${now}, your change was made on ${version}). The page shows it as it is now; make your change again.`,
    );
  }
  return version + 1;
}

/** PostgreSQL's JSON keeps no NUL. */
function storable(detected: Detected): string {
  return JSON.stringify(detected).replaceAll("\\u0000", "");
}
