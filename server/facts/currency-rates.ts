import type { Knex } from "knex";
import { monthName, yearOf } from "#core/calendar/month.ts";
import { ratePlace, RATE_DECIMALS, type CurrencyRates, type RateKind, type RateSide } from "#core/currency/rate.ts";
import { rateKindsOf, RATES_DATASET, RATES_DIMENSION } from "#core/currency/rates-dataset.ts";
import type { LoadResult } from "#core/checks/load-run.ts";
import type { MappedFact } from "#core/mapping/map-rows.ts";
import { lock } from "#server/db/locks.ts";
import { noteFactChange } from "#server/db/data-version.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** The rates that count now. */
export async function readRates(knex: Knex): Promise<CurrencyRates> {
  const rows =
    await knex("rate_in_force").select<
      { currency: string; month: number; kind: RateKind; units: string; priced: RateSide }[]
    >();
  return new Map(
    rows.map(({ currency, month, kind, units, priced }) => [
      ratePlace(currency, month, kind),
      { units: Number(units), priced },
    ]),
  );
}

/**
 * Keeps rates as they are until the transaction ends: shared by whoever converts with them, alone for whoever changes
 * them, so that nothing is converted with rates that are gone by then.
 */
export async function lockRates(trx: Knex.Transaction, how: "shared" | "alone"): Promise<void> {
  await lock(trx, "rates", { isShared: how === "shared" });
}

/** The dataset that loads of rates belong to, made when the first one comes. */
export async function ratesDataset(trx: Knex.Transaction): Promise<number> {
  await trx("dataset")
    .insert({
      ...RATES_DATASET,
      holds: "rates",
      grain: "month",
      dimensions: [],
      closes: false,
      position: trx.raw("(select coalesce(max(position), -1) + 1 from dataset)"),
    })
    .onConflict("key")
    .ignore();
  const row: { id: number } | undefined = await trx("dataset").where({ key: RATES_DATASET.key }).first("id");
  return row!.id;
}

/** Stores a file's rates under their load. Returns how many. */
export async function storeRates(
  trx: Knex.Transaction,
  { loadId, priced }: { readonly loadId: number; readonly priced: RateSide },
  batches: AsyncIterable<readonly Pick<MappedFact, "fact" | "line">[]>,
): Promise<number> {
  let count = 0;
  for await (const batch of batches) {
    const rows = batch.flatMap(({ fact, line }) =>
      rateKindsOf(fact.account).map((kind) => ({
        load_id: loadId,
        currency: fact.members[RATES_DIMENSION]!,
        month: fact.month,
        kind,
        units: fact.amount,
        priced,
        line,
      })),
    );
    await trx.batchInsert("currency_rate", rows, 500);
    count += batch.length;
  }
  return count;
}

/** Marks the months that a load of rates has. */
export async function coverRates(
  trx: Knex.Transaction,
  { loadId, rows }: { readonly loadId: number; readonly rows: number },
  months: LoadResult["months"],
): Promise<void> {
  const actual: { id: number } | undefined = await trx("scenario").where({ kind: "actual" }).orderBy("id").first("id");
  await trx("load").where({ id: loadId }).update({ rows });
  await trx.batchInsert(
    "load_month",
    [...new Set(months.map(({ month }) => month))].map((month) => ({
      load_id: loadId,
      scenario_id: actual!.id,
      month,
      day_mask: null,
    })),
  );
}

/** 10^9, by which decimals become whole before they are divided. */
const WHOLE = `1${"0".repeat(RATE_DECIMALS)}::numeric`;
/**
 * An original amount in whole units of its account, as `convertAmount` makes them: whole numbers divided once, halves
 * away from zero.
 */
export const CONVERTED = `(
  select sign(own.original_amount) * div(2 * over + under, 2 * under) from (
    select
      trunc(abs(own.original_amount) * ${WHOLE} * ${WHOLE}) * power(10::numeric, account.decimals)
        * case rate.priced when 'foreign' then rate.units else ${WHOLE} end as over,
      ${WHOLE} * ${WHOLE} * case rate.priced when 'foreign' then ${WHOLE} else rate.units end as under) as parts)`;
const RATE_OF_FACT = `rate.currency = own.original_currency and rate.month = own.month
  and rate.kind = case account.behaviour when 'balance' then 'closing' else 'average' end`;

/**
 * Converts anew what is kept in another currency, after its rates changed, so that every amount is what the rates in
 * force make of it. Returns how many amounts moved.
 */
export async function convertAnew(trx: Knex.Transaction): Promise<number> {
  const moved = new Map<string, { loadId: number; scenarioId: number; accountId: number }>();
  const slices = new Map<number, Map<string, { scenarioId: number; month: number }>>();
  let count = 0;
  for (const table of ["fact", "fact_set_aside"]) {
    const { rows } = await trx.raw<{
      rows: {
        dataset_id: number;
        scenario_id: number;
        account_id: number;
        month: number;
        load_id: number;
        n: string;
      }[];
    }>(
      `with changed as (
         update ${table} as own set amount = ${CONVERTED}
         from account, rate_in_force as rate
         where own.original_currency is not null and account.id = own.account_id and ${RATE_OF_FACT}
           and own.amount is distinct from ${CONVERTED}
         returning own.dataset_id, own.scenario_id, own.account_id, own.month, own.load_id)
       select dataset_id, scenario_id, account_id, month, load_id, count(*) as n from changed group by 1, 2, 3, 4, 5`,
    );
    for (const row of rows) {
      const { load_id: loadId, scenario_id: scenarioId, account_id: accountId, month } = row;
      moved.set(`${loadId}/${scenarioId}/${accountId}`, { loadId, scenarioId, accountId });
      if (table !== "fact") continue;
      count += Number(row.n);
      const own = slices.get(row.dataset_id) ?? new Map<string, { scenarioId: number; month: number }>();
      slices.set(row.dataset_id, own.set(`${scenarioId}/${month}`, { scenarioId, month }));
    }
  }
  for (const { loadId, scenarioId, accountId } of moved.values())
    await trx.raw(
      `update load_account set total = (
         select coalesce(sum(amount), 0) from (
           select amount from fact where load_id = :load and scenario_id = :scenario and account_id = :account
           union all
           select amount from fact_set_aside where load_id = :load and scenario_id = :scenario and account_id = :account
         ) as own)
       where load_id = :load and scenario_id = :scenario and account_id = :account`,
      { load: loadId, scenario: scenarioId, account: accountId },
    );
  for (const [dataset, own] of slices) await noteFactChange(trx, dataset, [...own.values()]);
  return count;
}

/** Throws a problem that names the load where an amount in force would be left without the rate it was converted with. */
async function requireRates(trx: Knex.Transaction): Promise<void> {
  const { rows } = await trx.raw<{ rows: { currency: string; month: number; file_name: string }[] }>(
    `select own.original_currency as currency, own.month, load.file_name
     from fact as own join account on account.id = own.account_id join load on load.id = own.load_id
     where own.original_currency is not null and not exists (select 1 from rate_in_force as rate where ${RATE_OF_FACT})
     order by own.month, own.original_currency limit 1`,
  );
  const first = rows[0];
  if (first)
    throw new ProblemError(
      "in-use",
      `${first.file_name} has amounts in ${first.currency} for ${monthName(first.month)} ${yearOf(first.month)}, which would be left without a rate. Post other rates for that month first, or undo ${first.file_name}.`,
    );
}

/**
 * Every amount in force is what the rates in force make of it; throws a problem where one would be left without. Alone
 * where rates, or which of them an account goes by, changed: then amounts are converted anew.
 */
export async function keepConverted(trx: Knex.Transaction, how: "shared" | "alone"): Promise<void> {
  // Without rates nothing was ever converted.
  if (!(await trx("currency_rate").first("load_id"))) return;
  await lockRates(trx, how);
  await requireRates(trx);
  if (how === "alone") await convertAnew(trx);
}

/** Throws a problem where rates against the company's currency are in force, and it is to report in another one. */
export async function refuseOtherCurrency(trx: Knex.Transaction, currency: string): Promise<void> {
  const company: { currency: string } | undefined = await trx("company").first("currency");
  if (!company || company.currency === currency) return;
  const first: { file_name: string } | undefined = await trx("load")
    .join("dataset", "dataset.id", "load.dataset_id")
    .where({ holds: "rates" })
    .whereNull("load.undone_at")
    .orderBy("load.id")
    .first("file_name");
  if (first)
    throw new ProblemError(
      "in-use",
      `The rates of ${first.file_name} are against ${company.currency}, and amounts were converted with them. Undo the loads of rates, and of what they converted, before the company reports in ${currency}.`,
    );
}
