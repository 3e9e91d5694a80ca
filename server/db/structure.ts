import type { Knex } from "knex";
import { buildAccountTree } from "#core/accounts/account-tree.ts";
import type { Account } from "#core/accounts/account.ts";
import { mapCoverage, type Grain, type Scenario } from "#core/cube/coverage.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { compileLibrary } from "#core/kpis/compile-kpi.ts";
import { askAll } from "./ask-all.ts";
import type { Company } from "#core/frame/company.ts";
import { packStartSchema } from "#contract/pack.ts";
import { readDataVersion, type DataVersion } from "./data-version.ts";
import { onceATurn } from "./once-a-turn.ts";
import { readStoredKpis } from "./stored-kpis.ts";

/** Keys and the numbers that facts keep in their place. */
export interface KeyIds {
  readonly accounts: ReadonlyMap<string, number>;
  readonly scenarios: ReadonlyMap<string, number>;
  /** By dimension, then member. */
  readonly members: ReadonlyMap<string, ReadonlyMap<string, number>>;
  readonly slots: ReadonlyMap<string, number>;
}

/** Everything figures are computed with besides the facts themselves, as of one data version. */
export interface Structure extends Company {
  readonly version: string;
  /** The state of the facts that its coverage speaks of. */
  readonly facts: string;
  readonly ids: KeyIds;
}

/** Reads the structure and keeps it until the data version moves on. */
export function structureReader(knex: Knex): () => Promise<Structure> {
  let kept: Promise<Structure> | undefined;
  let keptVersion: string | undefined;
  const readVersion = onceATurn((_: "") => readDataVersion(knex));
  return async () => {
    const at = await readVersion("");
    if (!kept || keptVersion !== at.version) {
      keptVersion = at.version;
      kept = readWhole(knex, at);
      kept.catch(() => (kept = undefined));
    }
    return kept;
  };
}

/** Reads the structure at a version; once more where something changed meanwhile, so that no part is newer than another. */
async function readWhole(knex: Knex, at: DataVersion): Promise<Structure> {
  for (;;) {
    const structure = await readStructure(knex, at);
    const after = await readDataVersion(knex);
    if (after.version === at.version) return structure;
    at = after;
  }
}

/** Reads the structure as it is now, inside a transaction where one is given. */
export async function readStructure(
  knex: Knex,
  at: Pick<DataVersion, "version" | "facts"> = { version: "0", facts: "0" },
): Promise<Structure> {
  const [
    company,
    accountRows,
    dimensionRows,
    memberRows,
    scenarioRows,
    datasetRows,
    accountCoverage,
    monthCoverage,
    storedKpis,
    packRows,
  ] = await askAll(knex, [
    knex("company").first<{ fiscal_start_month: number } | undefined>(),
    knex("account").orderBy("position").select<AccountRow[]>(),
    knex("dimension").orderBy("slot").select<DimensionRow[]>(),
    knex("member").orderBy("position").select<MemberRow[]>(),
    knex("scenario").orderBy("position").select<ScenarioRow[]>(),
    knex("dataset").orderBy("position").select<DatasetRow[]>(),
    knex("load_account")
      .join("load", "load.id", "load_account.load_id")
      .whereExists(
        knex("load_month")
          .select(knex.raw("1"))
          .whereRaw("load_month.load_id = load_account.load_id and load_month.scenario_id = load_account.scenario_id")
          .whereNull("set_aside_by"),
      )
      .distinct<{ dataset_id: number; scenario_id: number; account_id: number; depths: number[] }[]>(
        "load.dataset_id",
        "scenario_id",
        "account_id",
        "depths",
      ),
    knex("load_month")
      .join("load", "load.id", "load_month.load_id")
      .whereNull("load_month.set_aside_by")
      .groupBy("load.dataset_id", "scenario_id", "month")
      .select<{ dataset_id: number; scenario_id: number; month: number; day_mask: string | null }[]>(
        "load.dataset_id",
        "scenario_id",
        "month",
        knex.raw("bit_or(day_mask) as day_mask"),
      ),
    readStoredKpis(knex),
    knex("pack").orderBy("position").select<{ key: string; definition: unknown }[]>("key", "definition"),
  ]);
  const accountKey = new Map(accountRows.map((a) => [a.id, a.key]));
  const scenarioKey = new Map(scenarioRows.map((s) => [s.id, s.key]));
  const datasetKey = new Map(datasetRows.map((d) => [d.id, d.key]));
  const accounts = buildAccountTree(
    accountRows.map((a): Account => ({
      key: a.key,
      name: a.name,
      parent: a.parent_id === null ? null : accountKey.get(a.parent_id)!,
      kind: a.kind,
      behaviour: a.behaviour,
      unit: a.unit,
      decimals: a.decimals,
      aliases: a.aliases,
      isRetired: a.retired,
    })),
  );
  const dimensions = dimensionRows.map((dimension) => toDimension(dimension, memberRows));
  const unreadable = storedKpis.flatMap(({ definition: { key }, problem }) =>
    problem === null ? [] : [[key, { from: 0, to: 0, message: problem }] as const],
  );
  const readable = storedKpis.flatMap(({ definition, problem }) => (problem === null ? [definition] : []));
  const { kpis, problems } = compileLibrary(readable, {
    accounts,
    dimensions,
    scenarios: scenarioRows.map((s) => s.key),
  });
  return {
    version: at.version,
    facts: at.facts,
    calendar: { startMonth: company?.fiscal_start_month ?? 1 },
    accounts,
    dimensions,
    coverage: mapCoverage({
      datasets: datasetRows.map(({ key, name, grain, closes }) => ({ key, name, grain, closes })),
      scenarios: scenarioRows.map((s): Scenario => ({
        key: s.key,
        name: s.name,
        kind: s.kind,
        madeAfter: s.made_after,
      })),
      accounts: deepest(accountCoverage).map((c) => ({
        dataset: datasetKey.get(c.dataset_id)!,
        scenario: scenarioKey.get(c.scenario_id)!,
        account: accountKey.get(c.account_id)!,
        depths: Object.fromEntries(dimensionRows.map((d) => [d.key, c.depths[d.slot - 1] ?? 0])),
      })),
      months: monthCoverage.map((c) => ({
        dataset: datasetKey.get(c.dataset_id)!,
        scenario: scenarioKey.get(c.scenario_id)!,
        month: c.month,
        dayMask: c.day_mask === null ? null : Number(c.day_mask),
      })),
    }),
    kpis,
    kpiProblems: new Map([...problems.map(({ kpi, problem }) => [kpi, problem] as const), ...unreadable]),
    packStarts: new Map(
      packRows.flatMap(({ key, definition }) => {
        const starts = packStartSchema.safeParse((definition as { starts?: unknown } | null)?.starts);
        return starts.success ? [[key, starts.data] as const] : [];
      }),
    ),
    datasetDimensions: new Map(datasetRows.map((d) => [d.key, d.dimensions])),
    ids: {
      accounts: new Map(accountRows.map((a) => [a.key, a.id])),
      scenarios: new Map(scenarioRows.map((s) => [s.key, s.id])),
      members: new Map(
        dimensionRows.map((d) => [
          d.key,
          new Map(memberRows.filter((m) => m.dimension_id === d.id).map((m) => [m.key, m.id])),
        ]),
      ),
      slots: new Map(dimensionRows.map((d) => [d.key, d.slot])),
    },
  };
}

interface AccountRow {
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
}
interface DimensionRow {
  id: number;
  slot: number;
  key: string;
  name: string;
  plural: string;
  levels: string[];
}
interface MemberRow {
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
}
interface ScenarioRow {
  id: number;
  key: string;
  name: string;
  kind: Scenario["kind"];
  made_after: number | null;
}
interface DatasetRow {
  id: number;
  key: string;
  name: string;
  grain: Grain;
  dimensions: string[];
  closes: boolean;
}

function toDimension(dimension: DimensionRow, members: readonly MemberRow[]): Dimension {
  const own = members.filter((m) => m.dimension_id === dimension.id);
  const keyOf = new Map(own.map((m) => [m.id, m.key]));
  const { key, name, plural, levels } = dimension;
  return {
    key,
    name,
    plural,
    levels,
    members: own.map((m) => ({
      key: m.key,
      name: m.name,
      parent: m.parent_id === null ? null : keyOf.get(m.parent_id)!,
      aliases: m.aliases,
      isRetired: m.retired,
      attributes: m.attributes,
      firstMonth: m.first_month,
      lastMonth: m.last_month,
    })),
  };
}

/** One row per dataset, scenario and account, with the deepest level any load keeps. */
function deepest<T extends { dataset_id: number; scenario_id: number; account_id: number; depths: number[] }>(
  rows: readonly T[],
): T[] {
  const byPlace = new Map<string, T>();
  for (const row of rows) {
    const place = `${row.dataset_id}/${row.scenario_id}/${row.account_id}`;
    const known = byPlace.get(place);
    byPlace.set(
      place,
      known ? { ...row, depths: row.depths.map((depth, i) => Math.max(depth, known.depths[i] ?? 0)) } : row,
    );
  }
  return [...byPlace.values()];
}
