import { randomBytes } from "node:crypto";
import type { Knex } from "knex";
import { lock } from "#server/db/locks.ts";
import { isGone, newServerId } from "#server/work/server-id.ts";
import { createQueue } from "#server/work/work-queue.ts";

/** A company of the installation: its data lie in a PostgreSQL schema of their own, its files in a folder of that name. */
export interface RegisteredCompany {
  readonly key: string;
  readonly name: string;
  readonly schema: string;
}

/** PostgreSQL: no such table, or no such schema. */
const UNDEFINED_TABLE = /^(?:42P01|3F000)$/;

/** Whether something failed since a table, or the schema it lies in, is not there. */
export function isUndefinedTable(error: unknown): boolean {
  return UNDEFINED_TABLE.test((error as { code?: string } | null | undefined)?.code ?? "");
}

/** The sample company lies where a database begins; it is in no registry. */
export const SAMPLE_COMPANY = { key: "sample", schema: "public" } as const;

/** A company is being started, is there, or is being removed; in between nobody enters it. */
export type CompanyState = "starting" | "there" | "removing";

/** A start of a server elsewhere that takes so long was broken off. */
const STARTING = "interval '2 minutes'";

/** The server that starts companies here, by a name that tells whether it lives. */
const STARTED_BY = newServerId();

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
      alter table hackle_companies.space add column if not exists state text not null default 'there'
        check (state in ('starting', 'there', 'removing')),
        add column if not exists started_by text;
    `);
    await createQueue(trx);
  });
}

/** The name of a schema that no company has had: what one left behind is never found by the next of its name. */
export function newSchemaName(): string {
  return `company_${randomBytes(8).toString("hex")}`;
}

/**
 * Takes a company's place in the registry while it is started. Returns whether it was free; one whose start was broken
 * off is free, and returned to be cleared away.
 */
export async function reserveCompany(
  knex: Knex,
  registered: RegisteredCompany,
): Promise<{ readonly taken: boolean; readonly brokenOff?: RegisteredCompany }> {
  return knex.transaction(async (trx) => {
    await lock(trx, "registry");
    const known = await trx("hackle_companies.space")
      .where({ key: registered.key })
      .first<StartedCompany | undefined>(...STARTED, trx.raw(LONG_AGO));
    if (known && !isBrokenOff(known)) return { taken: false };
    if (known) await trx("hackle_companies.space").where({ key: registered.key }).delete();
    await trx("hackle_companies.space").insert({ ...registered, state: "starting", started_by: STARTED_BY });
    return { taken: true, ...(known ? { brokenOff: { key: known.key, schema: known.schema, name: known.name } } : {}) };
  });
}

/** Says how far a company is. */
export async function markCompany(
  knex: Knex,
  { schema }: Pick<RegisteredCompany, "schema">,
  state: CompanyState,
): Promise<void> {
  await knex("hackle_companies.space").where({ schema }).update({ state });
}

/** Takes a company out of the registry. */
export async function forgetCompany(knex: Knex, { schema }: Pick<RegisteredCompany, "schema">): Promise<void> {
  await knex("hackle_companies.space").where({ schema }).delete();
}

/** What was begun and not brought to its end: starts that were broken off, and removals. */
export async function unfinishedCompanies(knex: Knex, what: "all" | "removals" = "all"): Promise<RegisteredCompany[]> {
  const open = await knex("hackle_companies.space")
    .whereNot({ state: "there" })
    .select<StartedCompany[]>(...STARTED, knex.raw(LONG_AGO));
  return open.filter((registered) => registered.state === "removing" || (what === "all" && isBrokenOff(registered)));
}

type StartedCompany = RegisteredCompany & {
  readonly state: CompanyState;
  readonly started_by: string | null;
  readonly isLongAgo: boolean;
};
const STARTED = ["key", "schema", "name", "state", "started_by"] as const;
const LONG_AGO = `created_at < now() - ${STARTING} as "isLongAgo"`;

function isBrokenOff({ state, started_by: by, isLongAgo }: StartedCompany): boolean {
  return state === "starting" && (isLongAgo || (by !== null && isGone(by)));
}

/** The schemas of all companies, whatever their state. */
export async function knownSchemas(knex: Knex): Promise<string[]> {
  return knex("hackle_companies.space").pluck("schema");
}

/** All companies, the sample first where it is there and offered; each by the name it gives itself now. */
export async function listCompanies(
  knex: Knex,
  { hasSample }: { readonly hasSample: boolean },
): Promise<RegisteredCompany[]> {
  const own = await knex("hackle_companies.space")
    .where({ state: "there" })
    .orderBy("created_at")
    .orderBy("key")
    .select<RegisteredCompany[]>("key", "schema", "name");
  const companies = hasSample ? [{ ...SAMPLE_COMPANY, name: "" }, ...own] : own;
  const named = await Promise.all(
    companies.map(async (registered) => ({ ...registered, name: await nameOf(knex, registered) })),
  );
  // Before the sample is loaded it is nowhere to go.
  return named.flatMap(({ name, ...registered }) => (name === undefined ? [] : [{ ...registered, name }]));
}

/** What a company calls itself; `undefined` where it is not there yet, or not any more. */
async function nameOf(knex: Knex, { schema }: Pick<RegisteredCompany, "schema">): Promise<string | undefined> {
  try {
    const said = await knex.withSchema(schema).from("company").first<{ name: string } | undefined>("name");
    return said?.name;
  } catch (error) {
    if (isUndefinedTable(error)) return undefined;
    throw error;
  }
}

/** A company of one's own by its key; `undefined` while it is started or removed. */
export async function findCompany(knex: Knex, key: string): Promise<RegisteredCompany | undefined> {
  return knex("hackle_companies.space")
    .where({ key, state: "there" })
    .first<RegisteredCompany | undefined>("key", "schema", "name");
}

/** The address of a database with a company's schema as the only place where names are looked for. */
export function urlOfCompany(databaseUrl: string, schema: string): string {
  if (schema === SAMPLE_COMPANY.schema) return databaseUrl;
  const url = new URL(databaseUrl);
  const given = url.searchParams.get("options");
  url.searchParams.set("options", `${given === null ? "" : `${given} `}-c search_path=${schema}`);
  return url.href;
}
