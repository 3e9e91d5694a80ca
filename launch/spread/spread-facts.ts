import type { Knex } from "knex";
import type { Month } from "#core/calendar/month.ts";

/** A PostgreSQL server that keeps facts for another one. */
export interface FactServer {
  /** Its name in the database that the facts belong to. */
  readonly name: string;
  /** A database of it, as Hackle's own server reaches it. */
  readonly url: string;
}

/** A part of a dataset's facts and the server that keeps it: all months, or those from one on and before another. */
export interface FactPlace {
  readonly server: string;
  readonly months?: { readonly from: Month | null; readonly before: Month | null };
}

/** Rows that go over in one statement, and that come back in one piece. */
/** A row over the line costs more than PostgreSQL assumes: sums are better made where the rows lie. */
const BATCH = { batch_size: "1000", fetch_size: "10000", fdw_tuple_cost: "0.2" };

/** Makes another server known to the database, to keep facts for it. Done again, it changes nothing. */
export async function addFactServer(knex: Knex, { name, url }: FactServer): Promise<void> {
  const { hostname, port, pathname, username, password } = new URL(url);
  const options = {
    host: hostname,
    port: port || "5432",
    dbname: pathname.slice(1),
    // Several servers are asked at once rather than one after the other.
    async_capable: "true",
    ...BATCH,
  };
  const user = { user: decodeURIComponent(username), password: decodeURIComponent(password) };
  await knex.raw("create extension if not exists postgres_fdw");
  await knex.raw(
    `create server if not exists ?? foreign data wrapper postgres_fdw options (${optionList(knex, options)})`,
    [name],
  );
  await knex.raw(`create user mapping if not exists for current_user server ?? options (${optionList(knex, user)})`, [
    name,
  ]);
}

/**
 * Moves a dataset's facts to other servers, in one transaction here; `serverOf` gives a connection to each. Months that
 * no place has stay here. The tables there must not hold anything yet: what an attempt that failed left is removed.
 */
export async function moveDataset(
  knex: Knex,
  datasetId: number,
  places: readonly FactPlace[],
  serverOf: (name: string) => Knex,
): Promise<void> {
  const partition = `fact_${Math.trunc(datasetId)}`;
  const columns = await columnsOfFacts(knex);
  for (const [i, { server }] of places.entries()) await makeTable(serverOf(server), `${partition}_${i}`, columns);
  await knex.transaction(async (trx) => {
    const before = `${partition}_before`;
    await trx.raw("alter table fact detach partition ??", [partition]);
    await trx.raw("alter table ?? rename to ??", [partition, before]);
    await trx.raw(
      `create table ?? partition of fact for values in (${Math.trunc(datasetId)}) partition by range (month)`,
      [partition],
    );
    for (const [i, { server, months }] of places.entries())
      await trx.raw(
        `create foreign table ?? partition of ?? for values from (${months?.from ?? "minvalue"}) to (${months?.before ?? "maxvalue"})
         server ?? options (schema_name 'public', table_name '${partition}_${i}')`,
        [`${partition}_${i}`, partition, server],
      );
    if (!places.some(({ months }) => months === undefined))
      await trx.raw("create table ?? partition of ?? default", [`${partition}_rest`, partition]);
    await trx.raw("insert into ?? select * from ??", [partition, before]);
    await trx.raw("drop table ??", [before]);
  });
  for (const [i] of places.entries()) await knex.raw("analyze ??", [`${partition}_${i}`]);
}

async function columnsOfFacts(knex: Knex): Promise<string> {
  const { rows } = await knex.raw<{ rows: { name: string; type: string }[] }>(
    `select attname as name, format_type(atttypid, atttypmod) as type from pg_attribute
     where attrelid = 'fact'::regclass and attnum > 0 and not attisdropped order by attnum`,
  );
  return rows.map(({ name, type }) => `${name} ${type}`).join(", ");
}

/** The same indexes as at home: figures by account, source lines by load. */
async function makeTable(knex: Knex, name: string, columns: string): Promise<void> {
  await knex.raw(`drop table if exists ??`, [name]);
  await knex.raw(`create table ?? (${columns})`, [name]);
  await knex.raw("create index on ?? (account_id, scenario_id, month)", [name]);
  await knex.raw("create index on ?? (load_id, line)", [name]);
}

function optionList(knex: Knex, options: Readonly<Record<string, string>>): string {
  return Object.entries(options)
    .map(([name, value]) => `${name} ${knex.raw("?", [value]).toQuery()}`)
    .join(", ");
}
