import type { Knex } from "knex";
import { ProblemError } from "#server/problems/problem-error.ts";
import { slotColumn } from "#server/facts/slots.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { namedBy, type PartTable } from "./named-by.ts";

/** The columns of which a removed row is made again. */
const COLUMNS: Readonly<Record<PartTable, readonly string[]>> = {
  dimension: ["key", "name", "plural", "levels", "position"],
  dataset: ["key", "name", "grain", "dimensions", "position", "closes", "days_without_lines"],
  scenario: ["key", "name", "kind", "made_after", "position", "is_open", "is_retired"],
};
export const PART_TABLES = Object.keys(COLUMNS) as [PartTable, ...PartTable[]];
export type WholeRow = Readonly<Record<string, unknown>> & { readonly name: string };

/** A dimension, dataset or scenario as the history keeps it; `undefined` where there is none. */
export async function readWholeRow(knex: Knex, table: PartTable, key: string): Promise<WholeRow | undefined> {
  return knex(table)
    .where({ key, ...(table === "dataset" ? { holds: "facts" } : {}) })
    .first<WholeRow | undefined>(...COLUMNS[table]);
}

/** Makes it again as it was. */
export async function addWholeRow(trx: Knex.Transaction, table: PartTable, row: WholeRow): Promise<void> {
  const [made]: { id: number }[] = await trx(table).insert(row).returning("id");
  if (table === "dataset") await createPartition(trx, made!.id);
}

/** Throws a problem where something uses it, that says what does, and the way out. */
export async function refuseUsedPart(trx: Knex.Transaction, table: PartTable, key: string): Promise<void> {
  const row = await requireRow(trx, table, key);
  const user = await namedBy(trx, { table, key });
  if (user)
    throw new ProblemError("in-use", `${row.name} is named by ${user}. Change that first; then it can be removed.`);
  await REFUSALS[table](trx, row);
}

/** Removes it; that nothing uses it was seen to. */
export async function removeWholeRow(trx: Knex.Transaction, table: PartTable, key: string): Promise<void> {
  const row = await requireRow(trx, table, key);
  if (table === "dataset") {
    await trx("intake").where({ dataset: key }).delete();
    await trx.raw("drop table if exists ??", [`fact_${row.id}`]);
  }
  await trx(table).where({ id: row.id }).delete();
}

async function requireRow(trx: Knex.Transaction, table: PartTable, key: string): Promise<UsedRow> {
  const row = await trx<UsedRow>(table).where({ key }).first<UsedRow | undefined>();
  if (!row) throw new ProblemError("not-found", `There is no ${table} "${key}" any more.`);
  return row;
}

interface UsedRow {
  readonly id: number;
  readonly key: string;
  readonly name: string;
  readonly kind?: string;
}

const REFUSALS: Readonly<Record<PartTable, (trx: Knex.Transaction, row: UsedRow) => Promise<void>>> = {
  async dimension(trx, { id, name }) {
    const slots: { dataset_id: number; slot: number }[] = await trx("dataset_slot")
      .where({ dimension_id: id })
      .select("dataset_id", "slot");
    if (slots.length === 0) return;
    const places = slots.map(
      ({ dataset_id, slot }) => `(dataset_id = ${dataset_id} and ${slotColumn(slot)} is not null)`,
    );
    const { rows } = await trx.raw<{ rows: { load_id: number }[] }>(
      `(select load_id from fact where ${places.join(" or ")} limit 1)
       union all (select load_id from fact_set_aside where ${places.join(" or ")} limit 1)`,
    );
    const load = rows[0] && (await nameOfLoad(trx, rows[0].load_id));
    if (load) throw used(name, load);
  },
  async dataset(trx, { id, key, name }) {
    const feed: { name: string } | undefined = await trx("feed").where({ dataset: key }).first("name");
    if (feed) throw new ProblemError("in-use", `${name} is filled by the feed ${feed.name}.`);
    const load: LoadName | undefined = await trx("load")
      .where({ dataset_id: id })
      .orderBy("id", "desc")
      .first(...LOAD);
    if (load) throw used(name, load);
  },
  async scenario(trx, { id, name, kind }) {
    if (kind === "actual") throw new ProblemError("invalid-change", `${name} is the actual: a company always has it.`);
    const load: LoadName | undefined = await trx("load")
      .whereIn("id", trx("load_month").where({ scenario_id: id }).select("load_id"))
      .orderBy("id", "desc")
      .first(...LOAD);
    if (load) throw used(name, load);
    const part: { name: string } | undefined = await trx("scenario").where({ model_part_id: id }).first("name");
    if (part) throw new ProblemError("in-use", `${name} is a part of the version ${part.name}.`);
  },
};

/** A load by its file, and whether it was undone. */
export interface LoadName {
  readonly file_name: string;
  readonly undone_at: Date | null;
}
const LOAD = ["file_name", "undone_at"] as const;

async function nameOfLoad(trx: Knex.Transaction, id: number): Promise<LoadName | undefined> {
  return trx("load")
    .where({ id })
    .first<LoadName | undefined>(...LOAD);
}

/** A load stands in the way: what counts is undone first, and what was undone is removed for good. */
function used(name: string, { file_name, undone_at }: LoadName): ProblemError {
  return new ProblemError(
    "in-use",
    undone_at
      ? `${name} is what ${file_name} was posted to, which was undone and can still be brought back. Remove that load for good first.`
      : `${name} has what ${file_name} brought. Undo that load first, then remove it for good.`,
  );
}
