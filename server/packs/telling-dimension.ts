import type { Knex } from "knex";
import type { Structure } from "#server/db/structure.ts";
import { slotColumn } from "#server/facts/slots.ts";

/** A page shows members side by side: fewer than two tell nothing, and more than so many are no picture. */
const LEAST_MEMBERS = 2;
const MOST_MEMBERS = 40;

/**
 * The dimension of a dataset that tells most of an account: the one in which a single member explains the largest part
 * of what changed (against the budget, or from the first half of the months to the second). `null` where none has
 * members enough.
 */
export async function tellingDimension(
  trx: Knex.Transaction,
  structure: Structure,
  { dataset, account }: { readonly dataset: string; readonly account: string },
): Promise<string | null> {
  const { ids, coverage } = structure;
  const budget = coverage.homes.get("budget")?.get(account)?.dataset === dataset ? ids.scenarios.get("budget")! : null;
  const actual = ids.scenarios.get("actual");
  const slots = ids.slots.get(dataset);
  if (actual === undefined || slots === undefined) return null;
  // What is asked is one plain sum for each dimension: whatever the planner knows of the table, it is read once.
  const scenarios = budget === null ? [actual] : [actual, budget];
  const own = [ids.datasets.get(dataset)!, ids.accounts.get(account)!, scenarios] as const;
  const where = "dataset_id = ? and account_id = ? and scenario_id = any(?)";
  const { rows: spans } = await trx.raw<{ rows: { half: number | null }[] }>(
    `select (min(month) + max(month)) / 2.0::float8 as half from fact where ${where}`,
    [...own] as never,
  );
  const isLater = budget === null ? "month > ?::float8" : "scenario_id = ?";
  const later = budget === null ? (spans[0]?.half ?? 0) : actual;
  const tellings: { readonly dimension: string; readonly share: number }[] = [];
  for (const [dimension, slot] of slots) {
    const column = slotColumn(slot);
    const { rows } = await trx.raw<{ rows: { moved: string }[] }>(
      `select abs(sum(case when ${isLater} then amount else -amount end))::text as moved
       from fact where ${where} and ${column} is not null group by ${column} limit ${MOST_MEMBERS + 1}`,
      [later, ...own] as never,
    );
    const moved = rows.map((row) => Number(row.moved));
    const all = moved.reduce((sum, value) => sum + value, 0);
    const isFit = moved.length >= LEAST_MEMBERS && moved.length <= MOST_MEMBERS;
    tellings.push({ dimension, share: isFit ? (all === 0 ? 0 : Math.max(...moved) / all) : -1 });
  }
  const best = tellings.reduce<(typeof tellings)[number] | undefined>(
    (a, b) => (a && a.share >= b.share ? a : b),
    undefined,
  );
  return best && best.share >= 0 ? best.dimension : null;
}
