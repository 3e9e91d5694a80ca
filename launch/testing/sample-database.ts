import type { TestProject } from "vitest/node";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { createDatabase } from "../database.ts";
import { openHome } from "../home.ts";
import { startCluster, type Cluster } from "../postgres/cluster.ts";
import { loadSample } from "../sample.ts";
import { TEST_HOME } from "./home.ts";

declare module "vitest" {
  interface ProvidedContext {
    /** The sample company, shared by all suites and only read. */
    sampleUrl: string;
    /** Connects to the cluster, for suites that make a database of their own. */
    clusterUrl: string;
  }
}

/** Starts the tests' cluster and fills a fresh database with the sample company. */
export async function openTestDatabase(name = "sample"): Promise<{ cluster: Cluster; url: string }> {
  const cluster = await startCluster(openHome(TEST_HOME));
  const admin = connect(cluster.url, { poolSize: 1 });
  await admin.raw("drop database if exists ?? with (force)", [name]);
  await admin.destroy();
  await createDatabase(cluster, name);
  const url = cluster.urlOf(name);
  const knex = connect(url, { poolSize: 2 });
  await migrate(knex);
  await loadSample(knex);
  await knex.destroy();
  return { cluster, url };
}

/** Vitest's global setup: the cluster is stopped again unless somebody else started it. */
export default async function setup(project: TestProject): Promise<() => void> {
  const { cluster, url } = await openTestDatabase();
  project.provide("sampleUrl", url);
  project.provide("clusterUrl", cluster.url);
  return () => {
    if (process.env["HACKLE_KEEP_TEST_CLUSTER"] === undefined) cluster.stop();
  };
}
