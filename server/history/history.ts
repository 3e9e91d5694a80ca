import type { Knex } from "knex";
import { conflictsOf, isEmptyDiff, reverseDiff, type RecordsDiff } from "#core/history/records-diff.ts";
import type { Change } from "#contract/changes.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { noteChange } from "#server/db/data-version.ts";

/** What changes are of. */
export type ChangeArea = "pack" | "kpi" | "structure";

/** Who changes what, in words. */
export interface Changer {
  readonly by: string;
  readonly said: string;
}

/**
 * The door through which one area is changed: it reads the records that a diff names, and writes what
 * becomes of them, checking that everything still holds together.
 */
export interface Door {
  /** The records of the given names that are there now. */
  read(trx: Knex.Transaction, names: readonly string[]): Promise<Readonly<Record<string, unknown>>>;
  write(trx: Knex.Transaction, diff: RecordsDiff): Promise<void>;
  /** Whether a record is written as far as it fits, whatever it was before, such as an order. */
  isLoose?(name: string): boolean;
}

/** Writes a change through its door and remembers it. Returns its number, or `null` when nothing changed. */
export async function makeChange(
  trx: Knex.Transaction,
  { area, door, changer, diff }: { area: ChangeArea; door: Door; changer: Changer; diff: RecordsDiff },
): Promise<number | null> {
  if (isEmptyDiff(diff)) return null;
  await door.write(trx, diff);
  return rememberChange(trx, area, changer, diff);
}

/** Remembers a change that was written. */
export async function rememberChange(
  trx: Knex.Transaction,
  area: ChangeArea,
  { by, said }: Changer,
  diff: RecordsDiff,
): Promise<number> {
  await noteChange(trx);
  const [row]: { id: number }[] = await trx("change")
    .insert({ by, area, said, diff: JSON.stringify(diff), records: namesIn(diff) })
    .returning("id");
  return row!.id;
}

/** Takes a change of an area back, as a change of its own; a change that took another back is so made again. */
export async function undoChange(
  trx: Knex.Transaction,
  {
    id,
    area,
    recordsBelow = "",
    door,
    by,
  }: {
    id: number;
    area: ChangeArea;
    /** How the names of all its records begin, where it must be a change of a part of the area. */
    recordsBelow?: string;
    door: Door;
    by: string;
  },
): Promise<number> {
  const row = await trx("change").where({ id, area }).forUpdate().first<ChangeRow | undefined>("*");
  if (!row || !row.records.every((name) => name.startsWith(recordsBelow)))
    throw new ProblemError("not-found", `There is no change ${id} of ${AREA_NAMES[area]}.`);
  if (row.undone_by !== null) throw new ProblemError("invalid-change", `“${row.said}” was taken back already.`);
  const diff = reverseDiff(row.diff);
  if (isEmptyDiff(diff))
    throw new ProblemError("invalid-change", `“${row.said}” was made by an earlier version and cannot be taken back.`);
  const conflicts = conflictsOf(await door.read(trx, namesIn(diff)), diff);
  const conflict = conflicts.find(({ record }) => !door.isLoose?.(record));
  if (conflict)
    throw new ProblemError(
      "changed-meanwhile",
      `${nameOf(conflict.found ?? conflict.expected, conflict.record)} was changed since. Take back the later change first.`,
    );
  await door.write(trx, diff);
  const made = await rememberChange(trx, area, { by, said: undoneWords(row.said) }, diff);
  await trx("change").where({ id }).update({ undone_by: made });
  return made;
}

/** The last changes of an area, of one record, or of all whose names begin alike; newest first. */
export async function listChanges(
  knex: Knex,
  {
    area,
    record,
    recordsBelow,
    limit = 100,
  }: { area?: ChangeArea; record?: string; recordsBelow?: string; limit?: number },
): Promise<(Change & { readonly diff: RecordsDiff })[]> {
  const rows = await knex("change")
    .modify((query) => {
      if (area !== undefined) void query.where({ area });
      if (record !== undefined) void query.whereRaw("records @> array[?]", [record]);
      if (recordsBelow !== undefined)
        void query.whereRaw("exists (select 1 from unnest(records) as name where starts_with(name, ?))", [
          recordsBelow,
        ]);
    })
    .orderBy("id", "desc")
    .limit(limit)
    .select<ChangeRow[]>("*");
  return rows.map((row) => ({
    id: row.id,
    at: row.at.toISOString(),
    by: row.by,
    said: row.said,
    isUndone: row.undone_by !== null,
    mayUndo: row.undone_by === null && !isEmptyDiff(row.diff),
    diff: row.diff,
  }));
}

interface ChangeRow {
  id: number;
  at: Date;
  by: string;
  area: ChangeArea;
  said: string;
  diff: RecordsDiff;
  records: string[];
  undone_by: number | null;
}

function namesIn({ added, changed, removed }: RecordsDiff): string[] {
  return [added, changed, removed].flatMap((part) => Object.keys(part));
}

/** A record by the name a reader knows it by. */
function nameOf(record: unknown, otherwise: string): string {
  const { name, title } = (record ?? {}) as { name?: unknown; title?: unknown };
  const known = name ?? title;
  return typeof known === "string" ? known : (otherwise.split("/").at(-1) ?? otherwise);
}

const AREA_NAMES: Readonly<Record<ChangeArea, string>> = { pack: "pages", kpi: "KPIs", structure: "the structure" };

const UNDONE = "Taken back: ";

/** Taking back what was taken back reads as it was first said. */
function undoneWords(said: string): string {
  return said.startsWith(UNDONE) ? said.slice(UNDONE.length) : UNDONE + said;
}
