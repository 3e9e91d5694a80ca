import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { copySample } from "./sample-database.ts";

/** A database that one suite has for itself. */
export interface OwnDatabase {
  readonly knex: Knex;
  readonly url: string;
  drop(): Promise<void>;
}

/** Makes a database in the tests' cluster, with the sample company unless it is to be empty. */
export async function openOwnDatabase(clusterUrl: string, name: string, { empty = false } = {}): Promise<OwnDatabase> {
  const own = `${name}_${process.pid}`;
  const admin = connect(clusterUrl, { poolSize: 1 });
  await admin.raw("drop database if exists ?? with (force)", [own]);
  const url = new URL(clusterUrl);
  url.pathname = `/${own}`;
  if (empty) await admin.raw("create database ??", [own]);
  else await copySample(clusterUrl, own);
  // As the server asks: with the patience of requests.
  const knex = connect(url.href, { patience: "requests", connectMs: 60_000, acquireMs: 60_000 });
  if (empty) await migrate(knex);
  return {
    knex,
    url: url.href,
    drop: async () => {
      await knex.destroy();
      await admin.raw("drop database ?? with (force)", [own]);
      await admin.destroy();
    },
  };
}
