import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";
import { factHashes } from "#core/reading/fact-hash.ts";
import { monthsOf } from "#core/cube/coverage.ts";
import { streamRows } from "#server/db/stream-rows.ts";
import { slotColumn } from "#server/facts/slots.ts";
import type { Structure } from "#server/db/structure.ts";
import type { MonthAmount, PostedSlice, PostedBefore } from "#core/checks/check-context.ts";

/** Months of actuals that a file is compared with. */
const HISTORY_MONTHS = 25;
/** Doubles are looked for among this many facts at most, the newest months first. */
const DOUBLES_AMONG = 1_000_000;
const DOUBLE_MONTHS = 12;

/** A slice in force, with the number of its scenario. */
export type InForceSlice = PostedSlice & { readonly scenarioId: number };

/** The slices in force of a dataset: which load brought which months, and with which accounts. */
export async function readPostedSlices(knex: Knex, dataset: string): Promise<InForceSlice[]> {
  const { rows } = await knex.raw<{
    rows: {
      load_id: number;
      file_name: string;
      scenario: string;
      scenario_id: number;
      month: number;
      day_mask: string | null;
      accounts: string[];
    }[];
  }>(
    `select load_month.load_id, load.file_name, scenario.key as scenario, scenario.id as scenario_id, load_month.month, load_month.day_mask,
       own.accounts
     from load_month
       join load on load.id = load_month.load_id
       join dataset on dataset.id = load.dataset_id and dataset.key = ?
       join scenario on scenario.id = load_month.scenario_id
       join lateral (
         select array_agg(account.key) as accounts from load_account join account on account.id = load_account.account_id
         where load_account.load_id = load.id and load_account.scenario_id = scenario.id) own on true
     where load_month.set_aside_by is null`,
    [dataset],
  );
  return rows.map((row) => ({
    loadId: row.load_id,
    fileName: row.file_name,
    scenario: row.scenario,
    scenarioId: row.scenario_id,
    month: row.month,
    days: row.day_mask === null ? null : Number(row.day_mask),
    accounts: new Set(row.accounts),
  }));
}

/** What is in force of the periods that a file has: figures by scenario, account and month, and the members they are of. */
export async function readPostedBefore(
  knex: Knex,
  structure: Structure,
  dataset: string,
  months: readonly { readonly scenario: string; readonly month: Month }[],
): Promise<PostedBefore> {
  const scenarios = [...new Set(months.map(({ scenario }) => structure.ids.scenarios.get(scenario) ?? 0))];
  const bindings = [dataset, scenarios, [...new Set(months.map(({ month }) => month))]];
  const where = `where dataset_id = (select id from dataset where key = ?) and scenario_id = any(?) and month = any(?)`;
  const { rows } = await knex.raw<{
    rows: { scenario_id: number; account_id: number; month: number; amount: string }[];
  }>(
    `select scenario_id, account_id, month, sum(amount) as amount from fact ${where} group by scenario_id, account_id, month`,
    bindings,
  );
  const [accounts, named] = [inverse(structure.ids.accounts), inverse(structure.ids.scenarios)];
  const members = new Map<string, ReadonlySet<string>>();
  for (const [dimension, slot] of structure.ids.slots.get(dataset) ?? []) {
    const column = slotColumn(slot);
    const found = await knex.raw<{ rows: { id: number }[] }>(
      `select distinct ${column} as id from fact ${where} and ${column} is not null`,
      bindings,
    );
    const keys = inverse(structure.ids.members.get(dimension) ?? new Map<string, number>());
    members.set(dimension, new Set(found.rows.flatMap(({ id }) => keys.get(id) ?? [])));
  }
  return {
    amounts: rows.map((row) => ({
      scenario: named.get(row.scenario_id)!,
      account: accounts.get(row.account_id)!,
      month: row.month,
      amount: BigInt(row.amount),
    })),
    members,
  };
}

function inverse(ids: ReadonlyMap<string, number>): ReadonlyMap<number, string> {
  return new Map([...ids].map(([key, id]) => [id, key]));
}

/** Monthly actuals of a dataset's accounts up to two years before its last month, in whole minor units. */
export async function readHistory(knex: Knex, structure: Structure, dataset: string): Promise<MonthAmount[]> {
  const last = lastMonth(structure, dataset) ?? 0;
  const keyOf = new Map([...structure.ids.accounts].map(([key, id]) => [id, key]));
  const { rows } = await knex.raw<{ rows: { account_id: number; month: number; amount: string }[] }>(
    `select account_id, month, sum(amount) as amount from fact
     where dataset_id = (select id from dataset where key = ?)
       and scenario_id = (select id from scenario where key = 'actual') and month > ?
     group by account_id, month`,
    [dataset, last - HISTORY_MONTHS],
  );
  return rows.map((row) => ({ account: keyOf.get(row.account_id)!, month: row.month, amount: Number(row.amount) }));
}

/** What was posted with a reference in the last year, by content, to tell doubles. */
export async function readContents(knex: Knex, structure: Structure, dataset: string): Promise<Map<number, Month>> {
  const last = lastMonth(structure, dataset);
  const contents = new Map<number, Month>();
  if (last === undefined) return contents;
  const accounts = new Map([...structure.ids.accounts].map(([key, id]) => [id, key]));
  const dimensions = [...(structure.ids.slots.get(dataset) ?? [])].map(([key, slot]) => ({
    key,
    slot,
    members: new Map([...structure.ids.members.get(key)!].map(([member, id]) => [id, member])),
  }));
  const columns = dimensions.map((d) => slotColumn(d.slot));
  const text = `select ${["account_id", "month", "amount", "reference", ...columns].join(", ")} from fact
    where dataset_id = (select id from dataset where key = $1)
      and scenario_id = (select id from scenario where key = 'actual') and month > $2 and reference is not null
    order by month desc limit ${DOUBLES_AMONG}`;
  const since = last - DOUBLE_MONTHS;
  for await (const row of streamRows<[number, number, string, string, ...(number | null)[]]>(knex, text, [
    dataset,
    since,
  ])) {
    const members: Record<string, string> = {};
    dimensions.forEach((dimension, i) => {
      const id = row[4 + i];
      if (id !== null) members[dimension.key] = dimension.members.get(id as number)!;
    });
    const [accountId, month, amount, reference] = row;
    const account = accounts.get(accountId)!;
    const fact = { scenario: "actual", account, month, day: null, members, amount: Number(amount), reference };
    contents.set(factHashes(fact).content, month);
  }
  return contents;
}

/** The last month that has actuals, whole or in part. */
function lastMonth({ coverage }: Structure, dataset: string): Month | undefined {
  return monthsOf(coverage, dataset, "actual").at(-1)?.month;
}
