import { readdir, rm } from "node:fs/promises";
import { join } from "node:path";
import type { Knex } from "knex";
import type { CompanyStart } from "#contract/companies.ts";
import { hashPassword } from "#server/access/passwords.ts";
import { connect } from "#server/db/connect.ts";
import { lock } from "#server/db/locks.ts";
import { migrate } from "#server/db/migrate.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { forgetWork } from "#server/work/work-queue.ts";
import { newKey } from "#core/reading/names.ts";
import {
  forgetCompany,
  knownSchemas,
  markCompany,
  newSchemaName,
  SAMPLE_COMPANY,
  reserveCompany,
  unfinishedCompanies,
  urlOfCompany,
  type RegisteredCompany,
} from "./registry.ts";

const LONGEST_KEY = 40;

/** Where companies are: the database with the registry, and the folder in which each has one of its own. */
export interface CompaniesPlace {
  readonly knex: Knex;
  readonly databaseUrl: string;
  readonly folder: string;
}

/**
 * Starts a company: a schema with everything a company has and nothing in it, and its administrator. It is entered once
 * all of it is there; what a server that died meanwhile had made is cleared away by the next. Throws "invalid-change"
 * where there is one of that name.
 */
export async function createCompany(
  place: CompaniesPlace,
  { name, currency, startMonth, administrator }: CompanyStart,
): Promise<RegisteredCompany> {
  const { knex, databaseUrl } = place;
  const key = newKey(name.slice(0, LONGEST_KEY), new Set(), "-").slice(0, LONGEST_KEY);
  const registered: RegisteredCompany = { key, name, schema: newSchemaName() };
  const passwordHash = await hashPassword(administrator.password);
  // Its place in the registry is taken first, so that of two who start it at once one is told so.
  const { taken, brokenOff } = key === SAMPLE_COMPANY.key ? { taken: false } : await reserveCompany(knex, registered);
  if (!taken)
    throw new ProblemError(
      "invalid-change",
      `There is a company "${name}" here already. Sign in to it, or give yours another name.`,
    );
  if (brokenOff) await clearAway(place, brokenOff);
  try {
    await knex.raw("create schema ??", [registered.schema]);
    const own = connect(urlOfCompany(databaseUrl, registered.schema), { poolSize: 1 });
    try {
      await migrate(own);
      await own.transaction(async (trx) => {
        await trx("company").insert({ name, currency, fiscal_start_month: startMonth });
        // Whatever it is about, a company has what happened, what was planned, and what is aimed at.
        await trx("scenario").insert([
          { key: "actual", name: "Actual", kind: "actual", position: 0 },
          { key: "budget", name: "Budget", kind: "budget", position: 1 },
          { key: "target", name: "Target", kind: "target", position: 2 },
        ]);
        await trx("person").insert({
          email: administrator.email,
          name: administrator.name,
          title: "Administrator",
          role: "administrator",
          password_hash: passwordHash,
        });
      });
    } finally {
      await own.destroy();
    }
    await markCompany(knex, registered, "there");
  } catch (error) {
    await dropCompany(place, registered).catch(() => undefined);
    throw error;
  }
  return registered;
}

/** Removes a company whole: structure, data, people, pages, files. Begun once, it is brought to its end by whichever server. */
export async function dropCompany(place: CompaniesPlace, registered: RegisteredCompany): Promise<void> {
  await markCompany(place.knex, registered, "removing");
  await forgetWork(place.knex, registered.key);
  await clearAway(place, registered);
  // Last, so that whatever ends this in the middle leaves the place for the rest to be found.
  await forgetCompany(place.knex, registered);
}

async function clearAway(
  { knex, folder }: CompaniesPlace,
  { schema }: Pick<RegisteredCompany, "schema">,
): Promise<void> {
  await knex.transaction(async (trx) => {
    // Of two who clear it away at once one waits, and finds nothing left.
    await lock(trx, "removal", { of: schema });
    await trx.raw("drop schema if exists ?? cascade", [schema]);
  });
  await rm(join(folder, schema), { recursive: true, force: true });
}

/** Goes on with removals that were broken off; what is being started may take its time beside it. */
export async function resumeRemovals(place: CompaniesPlace): Promise<void> {
  for (const registered of await unfinishedCompanies(place.knex, "removals")) await dropCompany(place, registered);
}

/**
 * Brings to an end what servers before began and did not end, and clears away folders of companies that there are not.
 * What another server is about to do at the same time does no harm.
 */
export async function sweepCompanies(place: CompaniesPlace): Promise<void> {
  for (const registered of await unfinishedCompanies(place.knex)) await dropCompany(place, registered);
  const folders = (await readdir(place.folder).catch(() => [])).filter((name) => name.startsWith("company_"));
  // Folders first: one that is made meanwhile belongs to a company that is in the registry by then.
  const known = new Set(await knownSchemas(place.knex));
  for (const name of folders.filter((own) => !known.has(own)))
    await rm(join(place.folder, name), { recursive: true, force: true });
}
