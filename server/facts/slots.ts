import type { Knex } from "knex";
import type { Scope } from "#core/dimensions/scope.ts";
import type { KeyIds, Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { withDescendants } from "#core/dimensions/member-tree.ts";

/** Facts keep the members of so many dimensions, in columns m1 … m16; which one in which belongs to their dataset. */
export const SLOT_COUNT = 16;

/** The columns of all slots. */
export const SLOT_COLUMNS: readonly SlotColumn[] = Array.from({ length: SLOT_COUNT }, (_, i) => slotColumn(i + 1));

export type SlotColumn = `m${number}`;

export function slotColumn(slot: number): SlotColumn {
  return `m${slot}`;
}

/** The slots of a dataset, by dimension. */
export type Slots = ReadonlyMap<string, number>;

/**
 * Gives the dimensions of facts to come a slot each in their dataset, where they have none yet, and makes them the
 * dataset's own. Returns all of its slots. Throws a problem when there are more than facts can keep.
 */
export async function allotSlots(
  trx: Knex.Transaction,
  dataset: { readonly id: number; readonly name: string; readonly dimensions: readonly string[] },
  wanted: Iterable<string>,
): Promise<Slots> {
  const kept = new Map(await readSlots(trx, dataset.id));
  const missing = [...new Set(wanted)].filter((key) => !kept.has(key));
  const free = freeSlots(dataset.name, [...kept.values()], missing.length);
  for (const [i, key] of missing.entries()) {
    const slot = free[i]!;
    await trx.raw(
      "insert into dataset_slot (dataset_id, dimension_id, slot) select ?::int, id, ?::int from dimension where key = ?",
      [dataset.id, slot, key],
    );
    kept.set(key, slot);
  }
  const unnamed = missing.filter((key) => !dataset.dimensions.includes(key));
  if (unnamed.length > 0)
    await trx("dataset")
      .where({ id: dataset.id })
      .update({ dimensions: [...dataset.dimensions, ...unnamed] });
  return kept;
}

/** Slots that a dataset has free, as many as are wanted. Throws a problem when there are not so many. */
export function freeSlots(dataset: string, kept: readonly number[], wanted: number): number[] {
  const free = SLOT_COLUMNS.map((_, i) => i + 1).filter((slot) => !kept.includes(slot));
  if (wanted > free.length)
    throw new ProblemError(
      "cannot-post",
      `Facts of ${dataset} would have ${kept.length + wanted} dimensions, and they can keep ${SLOT_COUNT}. Leave columns out, or post them to another dataset.`,
    );
  return free.slice(0, wanted);
}

async function readSlots(knex: Knex, datasetId: number): Promise<[string, number][]> {
  const rows: { key: string; slot: number }[] = await knex("dataset_slot")
    .join("dimension", "dimension.id", "dimension_id")
    .where({ dataset_id: datasetId })
    .select("key", "slot");
  return rows.map(({ key, slot }) => [key, slot]);
}

/** Where in SQL a dimension is kept: datasets that keep it in the same column, together. */
interface Place {
  readonly column: SlotColumn;
  readonly datasets: readonly number[];
}

function placesOf({ slots, datasets }: KeyIds, dimension: string): Place[] {
  const byColumn = new Map<SlotColumn, number[]>();
  for (const [dataset, own] of slots) {
    const slot = own.get(dimension);
    if (slot === undefined) continue;
    const column = slotColumn(slot);
    byColumn.set(column, [...(byColumn.get(column) ?? []), datasets.get(dataset)!]);
  }
  return [...byColumn].map(([column, ids]) => ({ column, datasets: ids }));
}

/**
 * The member of a dimension that a fact of any dataset has, as an expression of SQL, and the condition that it has one.
 * Where all datasets keep it in one column that column stands alone, which other database servers understand best.
 */
export function memberSql(ids: KeyIds, dimension: string): { readonly member: string; readonly hasMember: string } {
  const places = placesOf(ids, dimension);
  const [first] = places;
  if (!first) return { member: "null::int", hasMember: "false" };
  const within = ({ datasets }: Place) => `fact.dataset_id in (${datasets.join(",")})`;
  if (places.length === 1) {
    const member = `fact.${first.column}`;
    return { member, hasMember: `${within(first)} and ${member} is not null` };
  }
  const member = `case ${places.map((place) => `when ${within(place)} then fact.${place.column}`).join(" ")} end`;
  return { member, hasMember: `${member} is not null` };
}

/**
 * That a fact of any dataset lies in a scope, as a condition of SQL that begins with "and"; nothing for everything.
 * `bind` gives the place of a value, which is called for in the order of the text.
 */
export function scopeSql(
  { ids, dimensions }: Pick<Structure, "ids" | "dimensions">,
  scope: Scope,
  bind: (members: readonly number[]) => string,
): string {
  return dimensions
    .flatMap((dimension) => {
      const chosen = scope[dimension.key];
      if (!chosen) return [];
      const own = ids.members.get(dimension.key)!;
      const inside = withDescendants(dimension, chosen).map((key) => own.get(key)!);
      const places = placesOf(ids, dimension.key).map(
        ({ column, datasets }) =>
          `(fact.dataset_id in (${datasets.join(",")}) and fact.${column} = any(${bind(inside)}))`,
      );
      // A dimension that no dataset keeps lets nothing through.
      return places.length === 0 ? [" and false"] : [` and (${places.join(" or ")})`];
    })
    .join("");
}

/** The slots of a row of facts. */
export type SlotCells = Readonly<Record<SlotColumn, number | null>>;

/** Reads from a row of any dataset which member of a dimension it has; `null` where it has none. */
export function memberReader({
  datasets,
  slots,
}: KeyIds): (row: SlotCells & { readonly dataset_id: number }, dimension: string) => number | null {
  const byDataset = new Map([...datasets].map(([key, id]) => [id, slots.get(key)!]));
  return (row, dimension) => {
    const slot = byDataset.get(row.dataset_id)?.get(dimension);
    return slot === undefined ? null : row[slotColumn(slot)]!;
  };
}
