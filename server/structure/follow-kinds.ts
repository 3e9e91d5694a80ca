import type { Knex } from "knex";
import type { Account } from "#core/accounts/account.ts";
import { diffRecords } from "#core/history/records-diff.ts";
import { signOf } from "#core/mapping/map-rows.ts";
import type { SignRule } from "#core/mapping/mapping.ts";
import { directionOf, resultsOf, sumsOf } from "#core/kpis/account-kpis.ts";
import { rateKindOf } from "#core/currency/rate.ts";
import { keepConverted } from "#server/facts/currency-rates.ts";
import { noteFactChange } from "#server/db/data-version.ts";
import { readStoredKpis } from "#server/db/stored-kpis.ts";
import { makeChange } from "#server/history/history.ts";
import { kpiRepository, kpiRecordName } from "#server/kpis/kpi-repository.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

/** An account that was taken for something else than it is. */
interface Reclassified {
  readonly before: Account;
  readonly after: Account;
}

const SIGN_RULES: readonly SignRule[] = ["own", "flipped", "result", "debit"];

/**
 * What follows when accounts turn out to be of another kind, income that is a cost for instance: amounts that a file
 * signed by the kind turn round, and KPIs that were made of the accounts read them as what they are.
 */
export async function followKinds(
  trx: Knex.Transaction,
  before: readonly Account[],
  after: readonly Account[],
  by: string,
): Promise<void> {
  const was = new Map(before.map((account) => [account.key, account]));
  const isConvertedOtherwise = after.some((own) => {
    const former = was.get(own.key);
    return former !== undefined && rateKindOf(former) !== rateKindOf(own);
  });
  if (isConvertedOtherwise) await keepConverted(trx, "alone");
  const changed = after.flatMap((own): Reclassified[] => {
    const former = was.get(own.key);
    return former && former.kind !== own.kind ? [{ before: former, after: own }] : [];
  });
  if (changed.length === 0) return;
  for (const one of changed) await turnAmounts(trx, one);
  await followKpis(trx, { before, after, changed }, by);
}

/** Turns amounts round that came by a rule which signs the two kinds differently. */
async function turnAmounts(trx: Knex.Transaction, { before, after }: Reclassified): Promise<void> {
  const rules = SIGN_RULES.filter((rule) => signOf(rule, before) !== signOf(rule, after));
  const loads: { id: number; dataset_id: number }[] = await trx("load")
    .leftJoin("intake", "intake.id", "load.intake_id")
    // What a load went by is kept with it; earlier ones know only how such files are brought in by now.
    .whereRaw("coalesce(load.brought ->> 'sign', intake.definition #>> '{rules,mapping,sign}') = any(?)", [rules])
    .select("load.id", "load.dataset_id");
  if (loads.length === 0) return;
  const account: { id: number } = await trx("account").where({ key: after.key }).first("id");
  const ids = loads.map(({ id }) => id);
  for (const table of ["fact", "fact_set_aside"])
    await trx.raw(
      `update ${table} set amount = -amount, original_amount = -original_amount where account_id = ? and load_id = any(?)`,
      [account.id, ids],
    );
  await trx("load_account")
    .where({ account_id: account.id })
    .whereIn("load_id", ids)
    .update({ total: trx.raw("-total") });
  const months: { dataset_id: number; scenario_id: number; month: number }[] = await trx("load_month")
    .join("load", "load.id", "load_month.load_id")
    .whereIn("load_id", ids)
    .distinct("dataset_id", "scenario_id", "month");
  for (const dataset of new Set(months.map((own) => own.dataset_id)))
    await noteFactChange(
      trx,
      dataset,
      months
        .filter((own) => own.dataset_id === dataset)
        .map((own) => ({ scenarioId: own.scenario_id, month: own.month })),
    );
}

/** KPIs as they were made of the accounts before, made of them as they are now; whatever somebody wrote stays. */
async function followKpis(
  trx: Knex.Transaction,
  {
    before,
    after,
    changed,
  }: {
    readonly before: readonly Account[];
    readonly after: readonly Account[];
    readonly changed: readonly Reclassified[];
  },
  by: string,
): Promise<void> {
  const stored = (await readStoredKpis(trx)).flatMap(({ definition, problem }) =>
    problem === null ? [definition] : [],
  );
  const byDataset = await accountsByDataset(trx);
  const formulas = new Map<string, string>();
  for (const keys of byDataset.values()) {
    const own = (accounts: readonly Account[]) => accounts.filter(({ key }) => keys.has(key));
    const now = sumsOf(own(after));
    for (const { name, formula } of resultsOf(own(before))) {
      const next = now.find((sum) => sum.name === name);
      if (next) formulas.set(whateverOrder(formula), next.formula);
    }
  }
  const next = stored.map((definition): KpiDefinition => {
    const own = changed.find((one) => one.after.key === definition.formula);
    if (own && definition.direction === directionOf(own.before))
      return { ...definition, direction: directionOf(own.after) };
    return { ...definition, formula: formulas.get(whateverOrder(definition.formula)) ?? definition.formula };
  });
  const records = (definitions: readonly KpiDefinition[]) =>
    Object.fromEntries(definitions.map((definition) => [kpiRecordName(definition.key), definition]));
  const names = changed.map(({ after: own }) => own.name).join(", ");
  await makeChange(trx, {
    area: "kpi",
    repository: kpiRepository,
    changer: { by, said: `Follows what ${names} is` },
    diff: diffRecords(records(stored), records(next)),
  });
}

/** Accounts may have been put in another order since a formula was made of them. */
function whateverOrder(formula: string): string {
  const sorted = (sum: string) => sum.split(" + ").sort().join(" + ");
  return formula.replace(/\)$/, "").split(" - (").map(sorted).join(" - ");
}

/** Which accounts a dataset keeps, by the dataset's number. */
async function accountsByDataset(trx: Knex.Transaction): Promise<ReadonlyMap<number, ReadonlySet<string>>> {
  const rows: { dataset_id: number; keys: string[] }[] = await trx("load_account")
    .join("load", "load.id", "load_account.load_id")
    .join("account", "account.id", "load_account.account_id")
    .groupBy("load.dataset_id")
    .select("load.dataset_id", trx.raw("array_agg(distinct account.key) as keys"));
  return new Map(rows.map((row) => [row.dataset_id, new Set(row.keys)]));
}
