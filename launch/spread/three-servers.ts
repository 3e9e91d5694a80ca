import { join } from "node:path";
import type { Knex } from "knex";
import { monthOf } from "#core/calendar/month.ts";
import { connect } from "#server/db/connect.ts";
import { noteAllFactsChanged } from "#server/db/data-version.ts";
import { migrate } from "#server/db/migrate.ts";
import { createDatabase, isEmpty } from "../database.ts";
import { openHome } from "../home.ts";
import { startCluster, type Cluster } from "../postgres/cluster.ts";
import { loadSample } from "../sample.ts";
import { addFactServer, moveDataset, type FactPlace } from "./spread-facts.ts";

/** Three PostgreSQL servers on loopback: one with everything but most facts, and two that keep those for it. */
export interface ThreeServers {
  /** What Hackle is told: the address of the first. */
  readonly url: string;
  readonly clusters: readonly Cluster[];
  /** Moves the facts to the two others, unless they are there. */
  spread(): Promise<void>;
  stop(): void;
}

const NAMES = ["north", "south"] as const;
/** The books are parted in time, here and there; what comes day by day lies on the second server whole. */
const BOOKS_PARTED_AT = monthOf(2025, 4);
const PLACES: Readonly<Record<string, readonly FactPlace[]>> = {
  "management-accounts": [
    { server: NAMES[0], months: { from: null, before: BOOKS_PARTED_AT } },
    { server: NAMES[1], months: { from: BOOKS_PARTED_AT, before: monthOf(2026, 9) } },
  ],
  "daily-operations": [{ server: NAMES[1] }],
};

/** Starts the three, with the sample company on the first. */
export async function startThreeServers(
  folder: string,
  { scale = 1, isForgetful = false }: { scale?: number; isForgetful?: boolean } = {},
): Promise<ThreeServers> {
  const clusters: Cluster[] = [];
  for (const name of ["first", ...NAMES])
    clusters.push(await startCluster(openHome(join(folder, name)), { isForgetful }));
  const [first, ...others] = clusters as [Cluster, ...Cluster[]];
  await createDatabase(first, "hackle");
  for (const other of others) await createDatabase(other, "hackle_facts");
  const url = first.urlOf("hackle");
  const knex = connect(url, { poolSize: 2 });
  try {
    await migrate(knex);
    if (await isEmpty(knex)) await loadSample(knex, { scale });
  } finally {
    await knex.destroy();
  }
  return {
    url,
    clusters,
    spread: () => spreadSample(url, new Map(NAMES.map((name, i) => [name, others[i]!.urlOf("hackle_facts")]))),
    stop: () => clusters.forEach((cluster) => cluster.stop()),
  };
}

async function spreadSample(url: string, servers: ReadonlyMap<string, string>): Promise<void> {
  const knex = connect(url, { poolSize: 2 });
  const remote = new Map<string, Knex>(
    [...servers].map(([name, address]) => [name, connect(address, { poolSize: 1 })]),
  );
  try {
    for (const [name, address] of servers) await addFactServer(knex, { name, url: address });
    for (const [key, places] of Object.entries(PLACES)) {
      const dataset: { id: number } | undefined = await knex("dataset").where({ key }).first("id");
      if (!dataset || (await isSpread(knex, dataset.id))) continue;
      await moveDataset(knex, dataset.id, places, (name) => remote.get(name)!);
    }
    await noteAllFactsChanged(knex);
  } finally {
    await Promise.all([knex, ...remote.values()].map((own) => own.destroy()));
  }
}

async function isSpread(knex: Knex, datasetId: number): Promise<boolean> {
  const { rows } = await knex.raw<{ rows: { kind: string }[] }>(
    "select relkind as kind from pg_class where oid = to_regclass(?)",
    [`fact_${datasetId}`],
  );
  return rows[0]?.kind !== "r";
}
