import type { Knex } from "knex";
import { noteFactChange } from "#server/db/data-version.ts";

/** A load's facts of one scenario and month. */
export interface Slice {
  readonly loadId: number;
  readonly scenarioId: number;
  readonly month: number;
}

/**
 * Puts slices out of force for a load that takes their place: their facts move to
 * `fact_set_aside`, and what was replaced is remembered. Undoing moves them back. That they moved is noted by whoever has
 * them moved (`noteMoved`).
 */
export async function setSlicesAside(trx: Knex.Transaction, byLoad: number, slices: readonly Slice[]): Promise<void> {
  if (slices.length === 0) return;
  await trx.raw(
    `insert into load_replaces (load_id, replaced_id, scenario_id, month)
     select ?, * from unnest(?::int[], ?::int[], ?::int[])`,
    [byLoad, slices.map((s) => s.loadId), slices.map((s) => s.scenarioId), slices.map((s) => s.month)],
  );
  await moveAside(trx, byLoad, slices);
}

/** Moves slices' facts out of force and marks their months. */
export function moveAside(trx: Knex.Transaction, byLoad: number, slices: readonly Slice[]): Promise<void> {
  return moveSlices(trx, slices, { from: "fact", to: "fact_set_aside", setAsideBy: byLoad });
}

/** Brings slices' facts back into force. */
export function bringBack(trx: Knex.Transaction, slices: readonly Slice[]): Promise<void> {
  return moveSlices(trx, slices, { from: "fact_set_aside", to: "fact", setAsideBy: null });
}

async function moveSlices(
  trx: Knex.Transaction,
  slices: readonly Slice[],
  { from, to, setAsideBy }: { from: string; to: string; setAsideBy: number | null },
): Promise<void> {
  for (const { loads, scenarioId, month } of bySlot(slices)) {
    await trx.raw(
      `with moved as (delete from ${from} where load_id = any(?) and scenario_id = ? and month = ? returning *)
       insert into ${to} select * from moved`,
      [loads, scenarioId, month],
    );
    await trx("load_month")
      .whereIn("load_id", loads)
      .where({ scenario_id: scenarioId, month })
      .update({ set_aside_by: setAsideBy });
  }
}

/** Notes that slices' facts count from now on, or no longer do: last, since everything that changes waits for it. */
export async function noteMoved(trx: Knex.Transaction, slices: readonly Slice[]): Promise<void> {
  const loads: { id: number; dataset_id: number }[] = await trx("load")
    .whereIn("id", [...new Set(slices.map((s) => s.loadId))])
    .select("id", "dataset_id");
  const datasetOf = new Map(loads.map((load) => [load.id, load.dataset_id]));
  for (const dataset of new Set(datasetOf.values()))
    await noteFactChange(
      trx,
      dataset,
      slices.filter((slice) => datasetOf.get(slice.loadId) === dataset),
    );
}

function bySlot(slices: readonly Slice[]): { loads: number[]; scenarioId: number; month: number }[] {
  const slots = new Map<string, { loads: number[]; scenarioId: number; month: number }>();
  for (const { loadId, scenarioId, month } of slices) {
    const place = `${scenarioId}/${month}`;
    const slot = slots.get(place) ?? { loads: [], scenarioId, month };
    slot.loads.push(loadId);
    slots.set(place, slot);
  }
  return [...slots.values()];
}
