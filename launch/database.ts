import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { LaunchError } from "./progress.ts";
import { startCluster, type Cluster } from "./postgres/cluster.ts";

/** The database Hackle works on: its own, or the one DATABASE_URL names. */
export interface Database {
  readonly url: string;
  readonly said: string;
  readonly cluster: Cluster | undefined;
  stop(): void;
}

/** Opens the database; makes and starts what is missing. */
export async function openDatabase(home: string): Promise<Database> {
  const given = process.env["DATABASE_URL"];
  if (given) {
    const knex = connect(given, { poolSize: 1 });
    try {
      const { rows } = await knex.raw<{ rows: { server_version: string }[] }>("show server_version");
      return {
        url: given,
        said: `PostgreSQL ${rows[0]?.server_version ?? ""} at DATABASE_URL`,
        cluster: undefined,
        stop: () => {},
      };
    } catch (error) {
      throw new LaunchError(
        `The database at DATABASE_URL does not answer: ${(error as Error).message}. Check the address, or unset DATABASE_URL to use Hackle's own PostgreSQL.`,
      );
    } finally {
      await knex.destroy();
    }
  }
  const cluster = await startCluster(home);
  try {
    await createDatabase(cluster, "hackle");
  } catch (error) {
    cluster.stop();
    throw error;
  }
  return { url: cluster.urlOf("hackle"), said: cluster.said, cluster, stop: () => cluster.stop() };
}

/** Creates a database in the cluster unless it is there. */
export async function createDatabase(cluster: Cluster, name: string): Promise<void> {
  const knex = connect(cluster.url, { poolSize: 1 });
  try {
    const known: unknown = await knex("pg_database").where({ datname: name }).first();
    if (!known) await knex.raw("create database ??", [name]);
  } finally {
    await knex.destroy();
  }
}

/** Whether any dataset is there. */
export async function isEmpty(knex: Knex): Promise<boolean> {
  return (await knex("dataset").first("id")) === undefined;
}
