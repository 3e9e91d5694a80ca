import type { Knex } from "knex";
import type { Account } from "#core/accounts/account.ts";
import type { KpiDefinition } from "#core/kpis/kpi.ts";
import type { Mapping } from "#core/mapping/mapping.ts";
import { newKey } from "#core/mapping/names.ts";
import type { PackDraft } from "#contract/pack.ts";
import type { Structure } from "#server/db/structure.ts";
import { insertPack } from "./insert-pack.ts";
import { noteChange } from "#server/db/data-version.ts";

/**
 * A dataset that came with a file gets a first page at once: a KPI for each of its new
 * accounts, a scorecard of them, and the first one over time. It compares with a budget
 * when the file brought one, else with the prior year.
 */
export async function addFirstLook(trx: Knex.Transaction, structure: Structure, mapping: Mapping): Promise<void> {
  const dataset = structure.coverage.datasets.get(mapping.dataset)!;
  const own = structure.coverage.homes;
  // Money comes before counts.
  const accounts = [...structure.accounts.accounts.values()]
    .filter((account) => [...own.values()].some((homes) => homes.get(account.key)?.dataset === dataset.key))
    .sort((a, b) => Number(b.unit.kind === "money") - Number(a.unit.kind === "money"));
  if (accounts.length === 0) return;
  const taken = new Set([...structure.kpis.keys(), ...structure.accounts.accounts.keys()]);
  const kpis = accounts.map((account) => {
    const existing = [...structure.kpis.values()].find((kpi) => kpi.definition.formula === account.key);
    if (existing) return { key: existing.definition.key, definition: null };
    const key = newKey(account.name, taken, "_");
    taken.add(key);
    return { key, definition: kpiOf(account, key) };
  });
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
  const packKeys = new Set<string>(await trx("pack").pluck("key"));
  const keys = kpis.map((kpi) => kpi.key);
  const pack: PackDraft = {
    key: newKey(dataset.name, packKeys, "-"),
    name: dataset.name,
    starts: {
      dataset: dataset.key,
      basis: hasBudget ? "budget" : "prior-year",
      unit: await fittingUnit(trx, dataset.key),
    },
    pages: [
      {
        key: "overview",
        name: "Overview",
        scope: {},
        panels: [
          { key: "scorecard", kind: "scorecard", groups: [{ title: dataset.name, kpis: keys }] },
          { key: "over-time", kind: "time-chart", kpi: keys[0]! },
        ],
      },
    ],
  };
  await insertPack(trx, pack, packKeys.size);
  await noteChange(trx);
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

function kpiOf(account: Account, key: string): KpiDefinition {
  return {
    key,
    name: account.name,
    formula: account.key,
    unit: account.unit,
    decimals: 0,
    direction: account.kind === "expense" ? "lower" : account.kind === "income" ? "higher" : "neutral",
    tolerance: { kind: "percent", percent: 1 },
    owner: "",
    description: `${account.name}, as the account keeps it.`,
    status: null,
    fallbackBasis: null,
  };
}
