import type { Knex } from "knex";
import { lock } from "#server/db/locks.ts";

/** A company of the installation: its data lie in a PostgreSQL schema of their own. */
export interface Space {
  readonly key: string;
  readonly name: string;
  readonly schema: string;
}

/** PostgreSQL: no such table, or no such schema. */
const UNDEFINED_TABLE = /^(?:42P01|3F000)$/;

/** The sample company lies where a database begins; it is in no registry. */
export const SAMPLE_SPACE = { key: "sample", schema: "public" } as const;

/**
 * Makes the registry of companies, where it is not there yet. Its schema is not called after a database user: names
 * would be looked for there first.
 */
export async function openRegistry(knex: Knex): Promise<void> {
  // Two processes that start together would both find it missing.
  await knex.transaction(async (trx) => {
    await lock(trx, "registry");
    await trx.raw(`
      create schema if not exists hackle_companies;
      create table if not exists hackle_companies.space (
        key text primary key,
        schema text not null unique,
        name text not null,
        created_at timestamptz not null default now()
      );
    `);
  });
}

/** All companies, the sample first where it is there and offered; each by the name it gives itself now. */
export async function listSpaces(knex: Knex, { hasSample }: { readonly hasSample: boolean }): Promise<Space[]> {
  const own = await knex("hackle_companies.space")
    .orderBy("created_at")
    .orderBy("key")
    .select<Space[]>("key", "schema", "name");
  const spaces = hasSample ? [{ ...SAMPLE_SPACE, name: "" }, ...own] : own;
  const named = await Promise.all(spaces.map(async (space) => ({ ...space, name: await nameOf(knex, space) })));
  // Before the sample is loaded, or while a company is being made, it is nowhere to go.
  return named.flatMap(({ name, ...space }) => (name === undefined ? [] : [{ ...space, name }]));
}

/** What a company calls itself; `undefined` where it is not there yet, or not any more. */
async function nameOf(knex: Knex, { schema }: Pick<Space, "schema">): Promise<string | undefined> {
  try {
    const said = await knex.withSchema(schema).from("company").first<{ name: string } | undefined>("name");
    return said?.name;
  } catch (error) {
    if (UNDEFINED_TABLE.test((error as { code?: string }).code ?? "")) return undefined;
    throw error;
  }
}

/** A company of one's own by its key. */
export async function findSpace(knex: Knex, key: string): Promise<Space | undefined> {
  return knex("hackle_companies.space").where({ key }).first<Space | undefined>("key", "schema", "name");
}

/** The address of a database with a company's schema as the only place where names are looked for. */
export function urlOfSpace(databaseUrl: string, schema: string): string {
  if (schema === SAMPLE_SPACE.schema) return databaseUrl;
  const url = new URL(databaseUrl);
  const given = url.searchParams.get("options");
  url.searchParams.set("options", `${given === null ? "" : `${given} `}-c search_path=${schema}`);
  return url.href;
}
