import type { Knex } from "knex";
import type { z } from "zod";
import type { PersonList, personAddSchema, personChangeSchema } from "#contract/companies.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { hashPassword, verifyPassword } from "./passwords.ts";
import type { Reader } from "./reader.ts";
import { closeOtherSessions, type PersonRow } from "./sessions.ts";

/** The people of a company, in the order they came. */
export async function listPeople(knex: Knex, reader: Reader): Promise<PersonList> {
  const rows = await knex("person").orderBy("id").select<PersonRow[]>();
  return rows.map(({ id, name, email, title, role, must_choose_password: hasFirstPassword }) => ({
    id,
    name,
    email,
    title,
    role,
    hasFirstPassword,
    isYou: id === reader.id,
  }));
}

/** Adds a person with a first password, which they change when they first sign in. */
export async function addPerson(knex: Knex, { password, ...person }: z.infer<typeof personAddSchema>): Promise<void> {
  const password_hash = await hashPassword(password);
  const added: unknown[] = await knex("person")
    .insert({ ...person, password_hash, must_choose_password: true })
    .onConflict("email")
    .ignore()
    .returning("id");
  if (added.length === 0)
    throw new ProblemError("invalid-change", `${person.email} is already in use. Edit that person instead.`);
}

/** Changes a person; a password that is given is a first one again, and ends their sessions. */
export async function changePerson(
  knex: Knex,
  reader: Reader,
  id: number,
  { password, ...change }: z.infer<typeof personChangeSchema>,
): Promise<void> {
  const secret =
    password === undefined
      ? {}
      : { password_hash: await hashPassword(password), must_choose_password: id !== reader.id };
  await knex.transaction(async (trx) => {
    const person = await lockPerson(trx, id);
    if (change.role !== undefined && change.role !== "administrator") await refuseLastAdministrator(trx, person);
    const row = { ...change, ...secret };
    if (Object.keys(row).length > 0) await trx("person").where({ id }).update(row);
    if (password !== undefined && id !== reader.id) await trx("session").where({ person_id: id }).delete();
  });
}

/** Removes a person; what they posted keeps their name. */
export async function removePerson(knex: Knex, reader: Reader, id: number): Promise<void> {
  if (id === reader.id)
    throw new ProblemError("invalid-change", "You cannot remove yourself. Another administrator can.");
  await knex.transaction(async (trx) => {
    await refuseLastAdministrator(trx, await lockPerson(trx, id));
    await trx("person").where({ id }).delete();
  });
}

/** Chooses a password of one's own. All other sessions of that person end; `session` is the token of the one that stays. */
export async function choosePassword(
  knex: Knex,
  { id }: Reader,
  { current, password }: { current: string; password: string },
  session: string,
): Promise<void> {
  const row = await knex("person").where({ id }).first<PersonRow | undefined>();
  if (!row || !(await verifyPassword(current, row.password_hash)))
    throw new ProblemError("invalid-change", "The current password is wrong. Type it again.");
  if (current === password)
    throw new ProblemError("invalid-change", "The new password is the same as the current one. Choose another.");
  const password_hash = await hashPassword(password);
  await knex.transaction(async (trx) => {
    await trx("person").where({ id }).update({ password_hash, must_choose_password: false });
    await closeOtherSessions(trx, id, session);
  });
}

/** Changes of people wait for each other, so that two cannot each remove the other administrator. */
async function lockPerson(trx: Knex.Transaction, id: number): Promise<PersonRow> {
  const people = await trx("person").orderBy("id").forUpdate().select<PersonRow[]>();
  const found = people.find((person) => person.id === id);
  if (!found) throw new ProblemError("not-found", `There is no person ${id}. They may have been removed.`);
  return found;
}

async function refuseLastAdministrator(trx: Knex.Transaction, { id, role, name }: PersonRow): Promise<void> {
  if (role !== "administrator") return;
  const other: unknown = await trx("person").where({ role: "administrator" }).whereNot({ id }).first("id");
  if (!other)
    throw new ProblemError(
      "invalid-change",
      `${name} is the only administrator. Make someone else an administrator first.`,
    );
}
