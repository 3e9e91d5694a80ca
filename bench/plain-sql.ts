import type { Knex } from "knex";

/** What a person would write for the cover's sums: actuals, prior year and budget by account and month. */
export async function cellsByHand(knex: Knex): Promise<unknown> {
  return knex.raw(`
    select scenario_id, account_id, month, sum(amount)
    from fact
    where month between (2025 * 12 + 3) and (2026 * 12 + 9)
    group by scenario_id, account_id, month`);
}
