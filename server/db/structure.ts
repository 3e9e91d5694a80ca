import { asDateWriting, asNumberWriting, type DateWriting, type NumberWriting } from "#core/formats/writing.ts";
import { isDeepStrictEqual } from "node:util";
import type { Knex } from "knex";
import { buildAccountTree } from "#core/accounts/account-tree.ts";
import type { Account } from "#core/accounts/account.ts";
import type { KnownEvent } from "#core/ahead/known-events.ts";
import { completeLists } from "#core/cube/complete-days.ts";
import { mapCoverage, type CoverageMap, type Scenario } from "#core/cube/coverage.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { compileLibrary } from "#core/kpis/compile-kpi.ts";
import type { Company } from "#core/frame/company.ts";
import { packStartSchema } from "#contract/pack.ts";
import { readDataVersion, type DataVersion } from "./data-version.ts";
import { onceATurn } from "./once-a-turn.ts";
import {
  readLooksRows,
  readStructureRows,
  type DimensionRow,
  type GroundRows,
  type KnownEventRow,
  type LooksRows,
  type MemberRow,
  type StructureRows,
} from "./structure-rows.ts";

/** Keys and the numbers that facts keep in their place. */
export interface KeyIds {
  readonly accounts: ReadonlyMap<string, number>;
  readonly scenarios: ReadonlyMap<string, number>;
  /** By dimension, then member. */
  readonly members: ReadonlyMap<string, ReadonlyMap<string, number>>;
  readonly datasets: ReadonlyMap<string, number>;
  /** By dataset, then dimension: in which of its columns a fact keeps its member. */
  readonly slots: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

/** Everything figures are computed with besides the facts themselves, as of one data version. */
export interface Structure extends Company {
  readonly version: string;
  /** The state of the facts that its coverage speaks of. */
  readonly facts: string;
  /** The state of what files are checked against, besides facts. */
  readonly structureVersion: string;
  /** How the company writes numbers, for readers who chose no other way. */
  readonly numbers: NumberWriting;
  readonly dates: DateWriting;
  readonly ids: KeyIds;
  /** What it was made of, so that it can be made elsewhere. */
  readonly rows: StructureRows;
  /** The same object for as long as nothing changes that a panel's answer follows from, besides the panel itself. */
  readonly ground: object;
}

type StructureState = Pick<DataVersion, "version" | "facts"> & { readonly structure?: string };

/**
 * Reads the structure and keeps it until the data version moves on. Where only what is looked at changed, as while a page
 * is arranged, the rest is the same objects as before: all that was found by them holds.
 */
export function structureReader(knex: Knex): () => Promise<Structure> {
  let kept: Promise<Structure> | undefined;
  let keptVersion: string | undefined;
  const readVersion = onceATurn((_: "") => readDataVersion(knex));
  return async () => {
    const at = await readVersion("");
    if (!kept || keptVersion !== at.version) {
      keptVersion = at.version;
      const before = kept?.catch(() => undefined);
      kept = readWhole(knex, at, before);
      kept.catch(() => (kept = undefined));
    }
    return kept;
  };
}

/** Reads the structure at a version; once more where something changed meanwhile, so that no part is newer than another. */
async function readWhole(
  knex: Knex,
  at: DataVersion,
  reading: Promise<Structure | undefined> | undefined,
): Promise<Structure> {
  const before = await reading;
  for (;;) {
    const structure = await readOnTopOf(before, knex, at);
    const after = await readDataVersion(knex);
    if (after.version === at.version) return structure;
    at = after;
  }
}

async function readOnTopOf(before: Structure | undefined, knex: Knex, at: DataVersion): Promise<Structure> {
  const isLooksOnly = before && before.facts === at.facts && before.structureVersion === at.structure;
  if (!isLooksOnly) return readStructure(knex, at);
  return buildStructure({ ...before.rows, ...(await readLooksRows(knex)) }, at, before);
}

/** Reads the structure as it is now, inside a transaction where one is given. */
export async function readStructure(knex: Knex, at: StructureState = { version: "0", facts: "0" }): Promise<Structure> {
  return buildStructure(await readStructureRows(knex), at);
}

/** Makes the structure of its rows; what is made of the same rows as before is the same as before. */
export function buildStructure(rows: StructureRows, at: StructureState, before?: Structure): Structure {
  const isGroundSame = before !== undefined && GROUND.every((name) => rows[name] === before.rows[name]);
  const ground = isGroundSame ? before : buildGround(rows);
  const areKpisSame = isGroundSame && isDeepStrictEqual(rows.kpis, before.rows.kpis);
  const areEventsSame = isGroundSame && isDeepStrictEqual(rows.knownEvents, before.rows.knownEvents);
  const packStarts = packStartsOf(rows);
  const { accounts, dimensions, calendar, currency, numbers, dates, coverage, datasetDimensions, ids } = ground;
  return {
    version: at.version,
    facts: at.facts,
    structureVersion: at.structure ?? "0",
    rows,
    ground: areKpisSame && areEventsSame && isDeepStrictEqual(packStarts, before.packStarts) ? before.ground : {},
    accounts,
    dimensions,
    calendar,
    currency,
    numbers,
    dates,
    coverage,
    datasetDimensions,
    ids,
    ...(areKpisSame ? { kpis: before.kpis, kpiProblems: before.kpiProblems } : buildKpis(rows, ground)),
    knownEvents: areEventsSame ? before.knownEvents : rows.knownEvents.map(toKnownEvent),
    packStarts,
  };
}

const GROUND = [
  "company",
  "accounts",
  "dimensions",
  "members",
  "scenarios",
  "datasets",
  "slots",
  "accountCoverage",
  "monthCoverage",
] as const satisfies readonly (keyof GroundRows)[];

type Ground = Pick<
  Structure,
  "accounts" | "dimensions" | "calendar" | "currency" | "numbers" | "dates" | "coverage" | "datasetDimensions" | "ids"
>;

function buildGround(rows: GroundRows): Ground {
  const accountKey = keysById(rows.accounts);
  const accounts = buildAccountTree(
    rows.accounts.map((a): Account => ({
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
  const dimensions = rows.dimensions.map((dimension) => toDimension(dimension, rows.members));
  const ids = keyIds(rows);
  const dates = asDateWriting(rows.company?.dates) ?? "30 November 2026";
  return {
    calendar: {
      startMonth: rows.company?.fiscal_start_month ?? 1,
      ...(rows.company && rows.company.week_start !== 1 ? { weekStart: rows.company.week_start } : {}),
      ...(dates === "November 30, 2026" ? { isMonthFirst: true } : {}),
    },
    currency: rows.company?.currency ?? "EUR",
    numbers: asNumberWriting(rows.company?.numbers) ?? "1,234.5",
    dates,
    accounts,
    dimensions,
    coverage: coverageOf(rows, ids),
    datasetDimensions: new Map(rows.datasets.map((d) => [d.key, d.dimensions])),
    ids,
  };
}

function buildKpis(
  rows: StructureRows,
  { accounts, dimensions }: Pick<Ground, "accounts" | "dimensions">,
): Pick<Structure, "kpis" | "kpiProblems"> {
  const unreadable = rows.kpis.flatMap(({ definition: { key }, problem }) =>
    problem === null ? [] : [[key, { from: 0, to: 0, message: problem }] as const],
  );
  const readable = rows.kpis.flatMap(({ definition, problem }) => (problem === null ? [definition] : []));
  const { kpis, problems } = compileLibrary(readable, {
    accounts,
    dimensions,
    scenarios: rows.scenarios.map((s) => s.key),
  });
  return {
    kpis,
    kpiProblems: new Map([...problems.map(({ kpi, problem }) => [kpi, problem] as const), ...unreadable]),
  };
}

function toKnownEvent(e: KnownEventRow): KnownEvent {
  return {
    id: e.id,
    kpi: e.kpi,
    from: e.first_day,
    to: e.last_day,
    scope: e.scope,
    at: e.dimension === null ? null : { dimension: e.dimension, members: e.members },
    isOfWhole: e.is_of_whole,
    verdict: e.verdict,
    reason: e.reason,
    by: e.said_by,
    saidAt: new Date(e.said_at).toISOString(),
  };
}

function packStartsOf({ packs }: LooksRows): Structure["packStarts"] {
  return new Map(
    packs.flatMap(({ key, definition }) => {
      const starts = packStartSchema.safeParse((definition as { starts?: unknown } | null)?.starts);
      return starts.success ? [[key, starts.data] as const] : [];
    }),
  );
}

function coverageOf(rows: GroundRows, { slots }: KeyIds): CoverageMap {
  const accountKey = keysById(rows.accounts);
  const scenarioKey = keysById(rows.scenarios);
  const datasetKey = keysById(rows.datasets);
  const depthsIn = (dataset: string, depths: readonly number[]): Record<string, number> =>
    Object.fromEntries([...(slots.get(dataset) ?? [])].map(([key, slot]) => [key, depths[slot - 1] ?? 0]));
  const isBalance = new Set(rows.accounts.filter(({ behaviour }) => behaviour === "balance").map(({ id }) => id));
  const balances = new Set(
    rows.accountCoverage
      .filter((c) => isBalance.has(c.account_id))
      .map((c) => `${datasetKey.get(c.dataset_id)} ${scenarioKey.get(c.scenario_id)}`),
  );
  const said = new Map(rows.datasets.map((d) => [d.key, d.days_without_lines]));
  const listed = completeLists(
    rows.monthCoverage.map((c) => ({
      dataset: datasetKey.get(c.dataset_id)!,
      scenario: scenarioKey.get(c.scenario_id)!,
      month: c.month,
      dayMask: c.day_mask === null ? null : Number(c.day_mask),
    })),
    {
      keepsBalances: (dataset, scenario) => balances.has(`${dataset} ${scenario}`),
      said: (dataset) => said.get(dataset) ?? null,
    },
  );
  return mapCoverage({
    datasets: rows.datasets.map(({ key, name, grain, closes }) => {
      const days = listed.taken.get(key);
      return { key, name, grain, closes, ...(days ? { days } : {}) };
    }),
    scenarios: rows.scenarios.map((s): Scenario => ({
      key: s.key,
      name: s.name,
      kind: s.kind,
      madeAfter: s.made_after,
      ...(s.is_open ? { isOpen: true } : {}),
      ...(s.is_retired ? { isRetired: true } : {}),
    })),
    accounts: deepest(rows.accountCoverage).map((c) => ({
      dataset: datasetKey.get(c.dataset_id)!,
      scenario: scenarioKey.get(c.scenario_id)!,
      account: accountKey.get(c.account_id)!,
      depths: depthsIn(datasetKey.get(c.dataset_id)!, c.depths),
    })),
    months: listed.months,
  });
}

function keyIds(rows: GroundRows): KeyIds {
  const dimensionKey = keysById(rows.dimensions);
  const within = <R extends { readonly dataset_id: number }>(dataset: number, all: readonly R[]) =>
    all.filter((row) => row.dataset_id === dataset);
  return {
    accounts: idsByKey(rows.accounts),
    scenarios: idsByKey(rows.scenarios),
    members: new Map(
      rows.dimensions.map((d) => [d.key, idsByKey(rows.members.filter((m) => m.dimension_id === d.id))]),
    ),
    datasets: idsByKey(rows.datasets),
    slots: new Map(
      rows.datasets.map((d) => [
        d.key,
        new Map(within(d.id, rows.slots).map((row) => [dimensionKey.get(row.dimension_id)!, row.slot])),
      ]),
    ),
  };
}

interface Keyed {
  readonly id: number;
  readonly key: string;
}

function idsByKey(rows: readonly Keyed[]): Map<string, number> {
  return new Map(rows.map(({ id, key }) => [key, id]));
}

function keysById(rows: readonly Keyed[]): Map<number, string> {
  return new Map(rows.map(({ id, key }) => [id, key]));
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
    byPlace.set(place, known ? { ...row, depths: deeper(row.depths, known.depths) } : row);
  }
  return [...byPlace.values()];
}

/** Loads may have been counted over fewer slots than there are now. */
function deeper(a: readonly number[], b: readonly number[]): number[] {
  const slots = Math.max(a.length, b.length);
  return Array.from({ length: slots }, (_, i) => Math.max(a[i] ?? 0, b[i] ?? 0));
}
