import type { Knex } from "knex";
import type { MergedDiff } from "#core/history/merge-diff.ts";
import { conflictsOf, isEmptyDiff, reverseDiff, type Records, type RecordsDiff } from "#core/history/records-diff.ts";
import type { Change } from "#contract/changes.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { noteChange } from "#server/db/data-version.ts";

/** What changes are of. */
export type ChangeArea = "pack" | "kpi" | "structure";

/** Who changes what, in words. */
export interface Changer {
  readonly by: string;
  readonly said: string;
  /** The name of the edit, by which it is known when it comes twice. */
  readonly edit?: string;
  /** The name of the edit that this one takes back. */
  readonly takesBack?: string;
}

/**
 * The repository through which one area is changed: it reads the records that a diff names, and writes what
 * becomes of them, checking that everything still holds together.
 */
export interface RecordRepository {
  /** The records of the given names that are there now. */
  read(trx: Knex.Transaction, names: readonly string[]): Promise<Readonly<Record<string, unknown>>>;
  write(trx: Knex.Transaction, diff: RecordsDiff): Promise<void>;
  /** Whether a record is written as far as it fits, whatever it was before, such as an order. */
  isLoose?(name: string): boolean;
  /** Fits a diff to the records as they are now; where nothing is said, it fits only what is as the diff expects it. */
  merge?(now: Records, diff: RecordsDiff): MergedDiff;
}

/** Writes a change through its repository and remembers it. Returns its number, or `null` when nothing changed. */
export async function makeChange(
  trx: Knex.Transaction,
  {
    area,
    repository,
    changer,
    diff,
  }: { area: ChangeArea; repository: RecordRepository; changer: Changer; diff: RecordsDiff },
): Promise<number | null> {
  if (isEmptyDiff(diff)) return null;
  await repository.write(trx, diff);
  return rememberChange(trx, area, changer, diff);
}

/** Remembers a change that was written. */
export async function rememberChange(
  trx: Knex.Transaction,
  area: ChangeArea,
  { by, said: own, edit, takesBack }: Changer,
  diff: RecordsDiff,
): Promise<number> {
  await noteChange(trx, area === "structure" ? "structure" : "looks");
  const back =
    takesBack === undefined
      ? undefined
      : await trx("change")
          .where({ edit: takesBack, area })
          .first<{ id: number; said: string } | undefined>("id", "said");
  const said = back ? undoneWords(back.said) : own;
  const [row]: { id: number }[] = await trx("change")
    .insert({ by, area, said, diff: JSON.stringify(diff), records: namesIn(diff), ...(edit ? { edit } : {}) })
    .returning("id");
  if (back) await trx("change").where({ id: back.id }).update({ undone_by: row!.id });
  return row!.id;
}

/** A diff as it fits what is there now. */
export async function fitDiff(
  trx: Knex.Transaction,
  repository: RecordRepository,
  diff: RecordsDiff,
): Promise<MergedDiff> {
  const now = await repository.read(trx, namesIn(diff));
  if (repository.merge) return repository.merge(now, diff);
  const conflicts = conflictsOf(now, diff).filter(({ record }) => !repository.isLoose?.(record));
  return { diff, conflicts: conflicts.map((conflict) => ({ ...conflict, setting: "" })) };
}

/** Takes a change of an area back, as a change of its own; a change that took another back is so made again. */
export async function undoChange(
  trx: Knex.Transaction,
  {
    id,
    area,
    isOf = () => true,
    repository,
    by,
  }: {
    id: number;
    area: ChangeArea;
    /** Whether a record belongs to the part of the area that it must be a change of. */
    isOf?: (record: string) => boolean;
    repository: RecordRepository;
    by: string;
  },
): Promise<number> {
  const row = await trx("change").where({ id, area }).forUpdate().first<ChangeRow | undefined>("*");
  if (!row || !row.records.every(isOf))
    throw new ProblemError("not-found", `There is no change ${id} of ${AREA_NAMES[area]}.`);
  if (row.undone_by !== null) throw new ProblemError("invalid-change", `“${row.said}” has already been undone.`);
  const diff = reverseDiff(row.diff);
  if (isEmptyDiff(diff))
    throw new ProblemError(
      "invalid-change",
      `“${row.said}” was made by an earlier version of Hackle and cannot be undone.`,
    );
  const fitted = await fitDiff(trx, repository, diff);
  const [conflict] = fitted.conflicts;
  if (conflict)
    throw new ProblemError(
      "changed-meanwhile",
      `${nameOf(conflict.found ?? conflict.expected, conflict.record)} has changed since. Undo the later change first.`,
    );
  await repository.write(trx, fitted.diff);
  const made = await rememberChange(trx, area, { by, said: undoneWords(row.said) }, fitted.diff);
  await trx("change").where({ id }).update({ undone_by: made });
  return made;
}

/**
 * The last changes of an area that others than one person made, newest first, with the records they are of: neither what was
 * taken back since, nor that it was.
 */
export async function latestOfOthers(
  knex: Knex,
  { area, notBy, since, limit }: { area: ChangeArea; notBy: string; since: Date; limit: number },
): Promise<{ readonly at: string; readonly by: string; readonly said: string; readonly records: readonly string[] }[]> {
  const rows = await knex("change")
    .where({ area })
    .whereNot({ by: notBy })
    .whereNull("undone_by")
    .whereNotIn("id", knex("change").whereNotNull("undone_by").select("undone_by"))
    .where("at", ">", since)
    .orderBy("id", "desc")
    .limit(limit)
    .select<Pick<ChangeRow, "at" | "by" | "said" | "records">[]>("at", "by", "said", "records");
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

/** The last changes of an area, of some records, or of all whose names begin alike; newest first. */
export async function listChanges(
  knex: Knex,
  {
    area,
    records,
    recordsBelow,
    limit = 100,
  }: { area?: ChangeArea; records?: readonly string[]; recordsBelow?: string; limit?: number },
): Promise<(Change & { readonly diff: RecordsDiff })[]> {
  const rows = await knex("change")
    .modify((query) => {
      if (area !== undefined) void query.where({ area });
      if (records === undefined && recordsBelow === undefined) return;
      void query.where((either) => {
        if (records !== undefined) void either.orWhereRaw("records && ?::text[]", [[...records]]);
        if (recordsBelow !== undefined)
          void either.orWhereRaw("exists (select 1 from unnest(records) as name where starts_with(name, ?))", [
            recordsBelow,
          ]);
      });
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
