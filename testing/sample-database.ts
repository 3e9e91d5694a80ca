import { mkdtempSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import type { TestProject } from "vitest/node";
import { openHome, PROJECT } from "#launch/home.ts";
import { startCluster, type Cluster } from "#launch/postgres/cluster.ts";
import { buildServer } from "#launch/server-build.ts";
import { loadSample } from "#launch/sample.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";

declare module "vitest" {
  interface ProvidedContext {
    /** The sample company, shared by all suites and only read. */
    sampleUrl: string;
    /** Connects to the cluster, for suites that make a database of their own. */
    clusterUrl: string;
  }
}

/** A cluster that one run of the tests has for itself, with the sample company as a template to make databases from. */
export interface TestCluster {
  readonly url: string;
  readonly said: string;
  /** Its data folder, by which a test can stop it and start it again. */
  readonly home: string;
  urlOf(database: string): string;
  stop(): void;
}

/** From this database, which nobody opens, every database with the sample company is copied. */
export const SAMPLE_TEMPLATE = "sample_template";

/** Starts a cluster in a folder of its own, so that two runs in one checkout do not meet, and loads the sample once. */
export async function openTestCluster(): Promise<TestCluster> {
  const parent = openHome(join(PROJECT, ".hackle"));
  const home = mkdtempSync(join(parent, "test-"));
  const cluster: Cluster = await startCluster(home, { isForgetful: true });
  const stop = () => {
    cluster.stop();
    for (const folder of [home, dirname(cluster.folder)]) rmSync(folder, { recursive: true, force: true });
  };
  try {
    const admin = connect(cluster.url, { poolSize: 1 });
    await admin.raw("create database ??", [SAMPLE_TEMPLATE]);
    const knex = connect(cluster.urlOf(SAMPLE_TEMPLATE), { poolSize: 2 });
    await migrate(knex);
    await loadSample(knex);
    await knex.destroy();
    await admin.destroy();
  } catch (error) {
    stop();
    throw error;
  }
  return { url: cluster.url, said: cluster.said, home, urlOf: (name) => cluster.urlOf(name), stop };
}

/** Copies the sample company into a database of its own; a fraction of a second. */
export async function copySample(clusterUrl: string, name: string): Promise<string> {
  const admin = connect(clusterUrl, { poolSize: 1 });
  try {
    await admin.raw("create database ?? template ??", [name, SAMPLE_TEMPLATE]);
  } finally {
    await admin.destroy();
  }
  const url = new URL(clusterUrl);
  url.pathname = `/${name}`;
  return url.href;
}

/** Vitest's global setup: a cluster for the run, with the sample company once. */
export default async function setup(project: TestProject): Promise<() => void> {
  const [cluster, { threads }] = await Promise.all([openTestCluster(), buildServer()]);
  // Threads that read TypeScript by themselves would take most of the time of the suites that start them.
  process.env["HACKLE_THREADS"] = threads;
  project.provide("clusterUrl", cluster.url);
  project.provide("sampleUrl", await copySample(cluster.url, "sample"));
  return () => cluster.stop();
}
