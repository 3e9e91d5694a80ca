import type { Knex } from "knex";
import type { Account } from "#core/accounts/account.ts";
import type { Mapping } from "#core/mapping/mapping.ts";
import { directionOf, rankOf, resultsOf, type AccountsResult } from "#core/kpis/account-kpis.ts";
import { newKey } from "#core/reading/names.ts";
import type { PackDraft } from "#contract/pack.ts";
import type { Structure } from "#server/db/structure.ts";
import { noteChange } from "#server/db/data-version.ts";
import { firstPanels } from "./first-panels.ts";
import { insertPack } from "./insert-pack.ts";
import { tellingDimension } from "./telling-dimension.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

/**
 * A dataset that came with a file gets a first page at once: a KPI for each of its new accounts and for each rate whose
 * parts the file has, tiles, the first one over time and by the dimension that tells most, and a scorecard. It compares
 * with a budget when the file brought one, else with the prior year, or with the prior period where there is none.
 * Returns the keys of what was made.
 */
export async function addFirstLook(
  trx: Knex.Transaction,
  structure: Structure,
  mapping: Mapping,
): Promise<{ readonly packs: readonly string[]; readonly kpis: readonly string[] }> {
  const dataset = structure.coverage.datasets.get(mapping.dataset)!;
  const own = structure.coverage.homes;
  const accounts = [...structure.accounts.accounts.values()]
    .filter((account) => [...own.values()].some((homes) => homes.get(account.key)?.dataset === dataset.key))
    .sort((a, b) => rankOf(a) - rankOf(b));
  const first = accounts[0];
  if (!first) return { packs: [], kpis: [] };
  const taken = new Set([...structure.kpis.keys(), ...structure.accounts.accounts.keys()]);
  const named = (name: string) => {
    const key = newKey(name, taken, "_");
    taken.add(key);
    return key;
  };
  const ofAccounts = accounts.map((account) => {
    const existing = [...structure.kpis.values()].find((kpi) => kpi.definition.formula === account.key);
    if (existing) return { key: existing.definition.key, definition: null };
    const key = named(account.name);
    return { key, definition: kpiOf(account, key) };
  });
  const ofRatios = ratiosOf(mapping, accounts).map((ratio) => {
    const key = named(ratio.name);
    return { key, definition: ratioKpi(ratio, key) };
  });
  const ofResult = resultsOf(accounts).map(({ name, formula, direction }) => {
    const key = named(name);
    return { key, definition: resultKpi({ name, formula, direction }, key) };
  });
  // Of many accounts the page shows what they come to, and the weightiest of them.
  const kpis = [...ofResult, ...ofAccounts.slice(0, MOST_OF_ACCOUNTS), ...ofRatios];
  const added = kpis.flatMap(({ definition }) => definition ?? []);
  await trx.batchInsert(
    "kpi",
    added.map((definition, i) => ({
      key: definition.key,
      definition: JSON.stringify(definition),
      position: structure.kpis.size + i,
    })),
  );
  const hasBudget =
    own.get("budget") !== undefined && accounts.some((a) => own.get("budget")!.get(a.key)?.dataset === dataset.key);
  const months = [...(structure.coverage.months.get(`${dataset.key} actual`)?.keys() ?? [])];
  const hasYearBefore = months.includes(Math.max(...months) - 12);
  const packKeys = new Set<string>(await trx("pack").pluck("key"));
  const pack: PackDraft = {
    key: newKey(dataset.name, packKeys, "-"),
    name: dataset.name,
    starts: {
      dataset: dataset.key,
      basis: hasBudget ? "budget" : hasYearBefore ? "prior-year" : "prior-period",
      unit: await fittingUnit(trx, dataset.key),
      // Of a first year only its months can be compared.
      ...(hasBudget || hasYearBefore ? {} : { span: "month" }),
    },
    pages: [
      {
        key: "overview",
        name: "Overview",
        scope: {},
        panels: firstPanels({
          title: dataset.name,
          kpis: kpis.map((kpi) => kpi.key),
          dimension: await tellingDimension(trx, structure, { dataset: dataset.key, account: first.key }),
        }),
      },
    ],
  };
  await insertPack(trx, pack, packKeys.size);
  await noteChange(trx, "looks");
  return { packs: [pack.key], kpis: added.map(({ key }) => key) };
}

/** Small amounts are not to be read in thousands. */
async function fittingUnit(trx: Knex.Transaction, dataset: string): Promise<"units" | "thousand"> {
  const row: { largest: string | null } | undefined = await trx("load_account")
    .join("load", "load.id", "load_account.load_id")
    .join("dataset", "dataset.id", "load.dataset_id")
    .where("dataset.key", dataset)
    .first(trx.raw("max(abs(total))::text as largest"));
  return Number(row?.largest ?? 0) < SMALL_MINOR_UNITS ? "units" : "thousand";
}

/** Sums below a million, in cents. */
const SMALL_MINOR_UNITS = 100_000_000;

const NEW_KPI = {
  tolerance: { kind: "percent", percent: 1 },
  owner: "",
  status: null,
  fallbackBasis: null,
} as const;

function kpiOf(account: Account, key: string): KpiDefinition {
  return {
    ...NEW_KPI,
    key,
    name: account.name,
    formula: account.key,
    unit: account.unit,
    decimals: 0,
    direction: directionOf(account),
    description: `${account.name}, as the account keeps it.`,
  };
}

/** So many accounts have a KPI of their own at once; the others are in what they come to. */
const MOST_OF_ACCOUNTS = 12;
function resultKpi({ name, formula, direction }: AccountsResult, key: string): KpiDefinition {
  return {
    ...NEW_KPI,
    key,
    name,
    formula,
    unit: { kind: "money" },
    decimals: 0,
    direction,
    description: `${name} of the accounts that came with the file.`,
  };
}

/** A rate of a file's column whose parts were posted. */
interface PostedRatio {
  readonly name: string;
  readonly amount: Account;
  readonly count: Account;
  readonly isPercent: boolean;
}

function ratiosOf({ apart = {}, columns }: Mapping, accounts: readonly Account[]): PostedRatio[] {
  const accountOf = (column: string) => {
    const meaning = columns[column];
    const key = meaning?.as === "amount" || meaning?.as === "quantity" ? meaning.account : null;
    return accounts.find((account) => account.key === key);
  };
  return Object.entries(apart).flatMap(([column, { ratio }]) => {
    // A column that is added up after all has an account of its own.
    if (!ratio || accountOf(column)) return [];
    const [amount, count] = [accountOf(ratio.amount), accountOf(ratio.count)];
    // The unit stands beside the name.
    const name = column.replace(/\s*[([]?\s*[%‰]\s*[)\]]?\s*$/, "") || column;
    return amount && count ? [{ name, amount, count, isPercent: ratio.isPercent }] : [];
  });
}

/** A rate over any rows: its parts are added up first. */
function ratioKpi({ name, amount, count, isPercent }: PostedRatio, key: string): KpiDefinition {
  return {
    ...NEW_KPI,
    key,
    name,
    formula: `${amount.key} / ${count.key}`,
    unit: isPercent
      ? { kind: "percent" }
      : amount.unit.kind === "money"
        ? { kind: "money-per", per: count.name.toLowerCase() }
        : { kind: "ratio", of: "" },
    decimals: isPercent ? 1 : 2,
    direction: "neutral",
    description: `${amount.name} by ${count.name}, each added up first.`,
  };
}
