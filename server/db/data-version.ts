import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";

/** Where the data are: everything that figures follow from, and the facts alone. Both grow with every change. */
export interface DataVersion {
  readonly version: string;
  readonly facts: string;
  /** What was kept of facts before this change is of no use: they were replaced as a whole. */
  readonly factsSince: string;
  /** Counts changes of what files are checked against besides facts: accounts, members, scenarios, rates, the calendar. */
  readonly structure: string;
}

/** A dataset's facts of a scenario and month. */
export interface FactSlice {
  readonly scenarioId: number;
  readonly month: Month;
}

/** The channel on which PostgreSQL tells that a change was committed. */
export const VERSION_CHANNEL = "data_version";

/** Reads where the data are now. */
export async function readDataVersion(knex: Knex): Promise<DataVersion> {
  const row: { version: string; facts: string; facts_since: string; structure: string } | undefined = await knex(
    "data_version",
  ).first("version", "facts", "facts_since", "structure");
  return {
    version: String(row?.version ?? 0),
    facts: String(row?.facts ?? 0),
    factsSince: String(row?.facts_since ?? 0),
    structure: String(row?.structure ?? 0),
  };
}

/**
 * Notes that definitions changed, and no facts: of the structure, or of what is only looked at, such as pages and KPIs.
 * Everything that changes waits for this row, so that it comes last in a transaction.
 */
export async function noteChange(trx: Knex, of: "structure" | "looks" = "structure"): Promise<void> {
  await trx("data_version").increment(of === "structure" ? { version: 1, structure: 1 } : { version: 1 });
}

/** Notes which slices' facts changed, in the transaction that changed them. */
export async function noteFactChange(trx: Knex, datasetId: number, slices: readonly FactSlice[]): Promise<void> {
  const [row]: { facts: string }[] = await trx("data_version")
    .update({ version: trx.raw("version + 1"), facts: trx.raw("facts + 1") })
    .returning("facts");
  if (slices.length === 0) return;
  await trx.raw(
    `insert into fact_slice (dataset_id, scenario_id, month, facts)
     select distinct ?::int, slice.scenario_id, slice.month, ?::bigint
     from unnest(?::int[], ?::int[]) as slice(scenario_id, month)
     on conflict (dataset_id, scenario_id, month) do update set facts = excluded.facts`,
    [datasetId, row!.facts, slices.map((s) => s.scenarioId), slices.map((s) => s.month)],
  );
}

/** Notes that facts were replaced as a whole. */
export async function noteAllFactsChanged(trx: Knex): Promise<void> {
  await trx("fact_slice").delete();
  await trx("data_version").update({
    version: trx.raw("version + 1"),
    facts: trx.raw("facts + 1"),
    facts_since: trx.raw("facts + 1"),
  });
}
