import type { Knex } from "knex";
import type { CompanyStart } from "#contract/companies.ts";
import { hashPassword } from "#server/access/passwords.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { newKey } from "#core/mapping/names.ts";
import { SAMPLE_SPACE, urlOfSpace, type Space } from "./registry.ts";

const LONGEST_KEY = 40;

/**
 * Starts a company: a schema with everything a company has and nothing in it, and its administrator. All of it is
 * there afterwards, or nothing. Throws "invalid-change" where there is one of that name.
 */
export async function createCompany(
  knex: Knex,
  databaseUrl: string,
  { name, currency, startMonth, administrator }: CompanyStart,
): Promise<Space> {
  // PostgreSQL cuts names of schemas after 63 letters.
  const key = newKey(name.slice(0, LONGEST_KEY), new Set(), "-").slice(0, LONGEST_KEY);
  const space: Space = { key, name, schema: `company_${key.replaceAll("-", "_")}` };
  const passwordHash = await hashPassword(administrator.password);
  // Its place in the registry is taken first, so that of two who start it at once one is told so.
  const taken: unknown[] =
    key === SAMPLE_SPACE.key
      ? []
      : await knex("hackle_companies.space").insert(space).onConflict().ignore().returning("key");
  if (taken.length === 0)
    throw new ProblemError(
      "invalid-change",
      `There is a company "${name}" here already. Sign in to it, or give yours another name.`,
    );
  try {
    await knex.raw("create schema ??", [space.schema]);
    const own = connect(urlOfSpace(databaseUrl, space.schema), { poolSize: 1 });
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
  } catch (error) {
    await dropCompany(knex, space);
    throw error;
  }
  return space;
}

/** Removes a company whole: structure, data, people, pages. */
export async function dropCompany(knex: Knex, { key, schema }: Space): Promise<void> {
  await knex.transaction(async (trx) => {
    await trx.raw("drop schema if exists ?? cascade", [schema]);
    await trx("hackle_companies.space").where({ key }).delete();
  });
}
