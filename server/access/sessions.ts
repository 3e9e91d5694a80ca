import { asDateWriting, asNumberWriting } from "#core/formats/writing.ts";
import { createHash, randomBytes } from "node:crypto";
import type { Knex } from "knex";
import type { Scope } from "#core/dimensions/scope.ts";
import type { Person } from "#contract/session.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { hashPassword, verifyPassword } from "./passwords.ts";
import type { Reader } from "./reader.ts";

/** A session lasts a working day. */
export const SESSION_HOURS = 12;

/** A person as the database keeps them. */
export interface PersonRow {
  id: number;
  email: string;
  name: string;
  title: string;
  role: Person["role"];
  scope: Scope;
  password_hash: string;
  signs_in_by_click: boolean;
  must_choose_password: boolean;
  numbers: string | null;
  dates: string | null;
}

/** A hash nobody's password fits: unknown addresses cost as much time as wrong passwords. */
let decoy: Promise<string> | undefined;

/** Signs in by password. Throws "wrong-password" without saying which of the two was wrong. */
export async function signIn(knex: Knex, email: string, password: string): Promise<{ token: string; reader: Reader }> {
  const row = await knex("person").where("email", email.toLowerCase()).first<PersonRow | undefined>();
  const hash = row?.password_hash ?? (await (decoy ??= hashPassword(randomBytes(12).toString("hex"))));
  const fits = await verifyPassword(password, hash);
  if (!row || !fits)
    throw new ProblemError("wrong-password", "Wrong e-mail address or password. Check both and try again.");
  return { token: await openSession(knex, row.id), reader: toReader(row) };
}

/** Signs in with one click, as a person who is offered so. Throws "not-found" for anybody else. */
export async function signInSample(knex: Knex, email: string): Promise<{ token: string; reader: Reader }> {
  const row = await knex("person")
    .where({ email: email.toLowerCase(), signs_in_by_click: true })
    .first<PersonRow | undefined>();
  if (!row)
    throw new ProblemError("not-found", "There is no sample person with this address. Choose one from the list.");
  return { token: await openSession(knex, row.id), reader: toReader(row) };
}

/** The person a session belongs to; `undefined` when it is unknown or has expired. */
export async function readSession(knex: Knex, token: string): Promise<Reader | undefined> {
  const row: PersonRow | undefined = await knex("session")
    .join("person", "person.id", "session.person_id")
    .where("token_hash", hashToken(token))
    .where("expires_at", ">", knex.fn.now())
    .first("person.*");
  return row && toReader(row);
}

/** Ends a session; an unknown one is none. */
export async function closeSession(knex: Knex, token: string): Promise<void> {
  await knex("session").where("token_hash", hashToken(token)).delete();
}

/** Ends all sessions of a person but one. */
export async function closeOtherSessions(knex: Knex, personId: number, token: string): Promise<void> {
  await knex("session").where({ person_id: personId }).whereNot("token_hash", hashToken(token)).delete();
}

/** The people whom the sign-in page offers with one click. */
export async function samplePeople(knex: Knex): Promise<Reader[]> {
  const rows = await knex("person").where({ signs_in_by_click: true }).orderBy("id").select<PersonRow[]>();
  return rows.map(toReader);
}

async function openSession(knex: Knex, personId: number): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await knex("session").where("expires_at", "<", knex.fn.now()).delete();
  await knex("session").insert({
    token_hash: hashToken(token),
    person_id: personId,
    expires_at: knex.raw("now() + make_interval(hours => ?)", [SESSION_HOURS]),
  });
  return token;
}

function hashToken(token: string): Buffer {
  return createHash("sha256").update(token).digest();
}

/** The reader a person is. */
export function toReader({ must_choose_password: must, numbers, dates, ...row }: PersonRow): Reader {
  const { id, email, name, title, role, scope } = row;
  const own = asNumberWriting(numbers);
  const ownDates = asDateWriting(dates);
  return {
    id,
    email,
    name,
    title,
    role,
    scope,
    ...(own ? { numbers: own } : {}),
    ...(ownDates ? { dates: ownDates } : {}),
    ...(must ? { mustChoosePassword: true } : {}),
  };
}
