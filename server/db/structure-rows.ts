import type { Knex } from "knex";
import type { Account } from "#core/accounts/account.ts";
import type { EventVerdict } from "#core/ahead/known-events.ts";
import type { Grain, Scenario, DaysWithoutLines } from "#core/cube/coverage.ts";
import { askNamed } from "./ask-named.ts";
import { readStoredKpis, type StoredKpi } from "./stored-kpis.ts";

/** What figures stand on besides facts: it changes with the facts, and with what files are checked against. */
export interface GroundRows {
  readonly company: CompanyRow | undefined;
  readonly accounts: readonly AccountRow[];
  readonly dimensions: readonly DimensionRow[];
  readonly members: readonly MemberRow[];
  readonly scenarios: readonly ScenarioRow[];
  readonly datasets: readonly DatasetRow[];
  readonly slots: readonly SlotRow[];
  /** How deep facts in force keep each account. */
  readonly accountCoverage: readonly AccountCoverageRow[];
  /** Months with facts in force. */
  readonly monthCoverage: readonly MonthCoverageRow[];
}

/** What is looked at, and how: it changes with every page that is arranged. */
export interface LooksRows {
  readonly kpis: readonly StoredKpi[];
  readonly knownEvents: readonly KnownEventRow[];
  readonly packs: readonly { readonly key: string; readonly definition: unknown }[];
}

/** What the database has of the structure: plain data, which another thread can be given. */
export type StructureRows = GroundRows & LooksRows;

/** Reads all of it, inside a transaction where one is given. */
export async function readStructureRows(knex: Knex): Promise<StructureRows> {
  return { ...(await readGroundRows(knex)), ...(await readLooksRows(knex)) };
}

/** Reads what is looked at alone. */
export function readLooksRows(knex: Knex): Promise<LooksRows> {
  return askNamed<LooksRows>(knex, {
    kpis: readStoredKpis(knex),
    knownEvents: knex("known_event").orderBy("id").select<KnownEventRow[]>(),
    packs: knex("pack").orderBy("position").select<{ key: string; definition: unknown }[]>("key", "definition"),
  });
}

function readGroundRows(knex: Knex): Promise<GroundRows> {
  return askNamed<GroundRows>(knex, {
    company: knex("company").first<CompanyRow | undefined>(),
    accounts: knex("account").orderBy("position").select<AccountRow[]>(),
    dimensions: knex("dimension").orderBy("position").orderBy("id").select<DimensionRow[]>(),
    members: knex("member").orderBy("position").select<MemberRow[]>(),
    scenarios: knex("scenario")
      .orderBy("position")
      .select<ScenarioRow[]>("id", "key", "name", "kind", "made_after", "is_open", "is_retired"),
    datasets: knex("dataset").where({ holds: "facts" }).orderBy("position").select<DatasetRow[]>(),
    slots: knex("dataset_slot").select<SlotRow[]>("dataset_id", "dimension_id", "slot"),
    accountCoverage: knex("load_account")
      .join("load", "load.id", "load_account.load_id")
      .whereExists(
        knex("load_month")
          .select(knex.raw("1"))
          .whereRaw("load_month.load_id = load_account.load_id and load_month.scenario_id = load_account.scenario_id")
          .whereNull("set_aside_by"),
      )
      .distinct<AccountCoverageRow[]>("load.dataset_id", "scenario_id", "account_id", "depths"),
    monthCoverage: knex("load_month")
      .join("load", "load.id", "load_month.load_id")
      .join("dataset", "dataset.id", "load.dataset_id")
      .where("dataset.holds", "facts")
      .whereNull("load_month.set_aside_by")
      .groupBy("load.dataset_id", "scenario_id", "month")
      .select<MonthCoverageRow[]>("load.dataset_id", "scenario_id", "month", knex.raw("bit_or(day_mask) as day_mask")),
  });
}

export interface CompanyRow {
  fiscal_start_month: number;
  currency: string;
  numbers: string;
  dates: string;
  week_start: number;
}
export interface AccountRow {
  id: number;
  key: string;
  name: string;
  parent_id: number | null;
  kind: Account["kind"];
  behaviour: Account["behaviour"];
  unit: Account["unit"];
  decimals: number;
  aliases: string[];
  retired: boolean;
  /** How often it was changed. */
  version: number;
}
export interface DimensionRow {
  id: number;
  key: string;
  name: string;
  plural: string;
  levels: string[];
}
export interface MemberRow {
  id: number;
  dimension_id: number;
  key: string;
  name: string;
  parent_id: number | null;
  aliases: string[];
  retired: boolean;
  attributes: Record<string, string>;
  first_month: number | null;
  last_month: number | null;
  version: number;
}
export interface ScenarioRow {
  id: number;
  key: string;
  name: string;
  kind: Scenario["kind"];
  made_after: number | null;
  is_open: boolean;
  is_retired: boolean;
}
export interface DatasetRow {
  id: number;
  key: string;
  name: string;
  grain: Grain;
  dimensions: string[];
  closes: boolean;
  days_without_lines: DaysWithoutLines | null;
}

export interface SlotRow {
  dataset_id: number;
  dimension_id: number;
  slot: number;
}
export interface AccountCoverageRow {
  dataset_id: number;
  scenario_id: number;
  account_id: number;
  depths: number[];
}
export interface MonthCoverageRow {
  dataset_id: number;
  scenario_id: number;
  month: number;
  day_mask: string | null;
}
export interface KnownEventRow {
  id: number;
  kpi: string | null;
  first_day: number;
  last_day: number;
  scope: Record<string, string[]>;
  dimension: string | null;
  members: string[];
  is_of_whole: boolean;
  verdict: EventVerdict;
  reason: string;
  said_by: string;
  said_at: Date;
}
