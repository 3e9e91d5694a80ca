import { createHash, randomBytes } from "node:crypto";
import type { Knex } from "knex";
import type { NewToken, TokenList } from "#contract/tokens.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { RegisteredCompany } from "#server/companies/registry.ts";
import type { Reader } from "./reader.ts";
import { tokenPrefix } from "./session-cookie.ts";
import { toReader, type PersonRow } from "./sessions.ts";

const MOST_TOKENS = 50;

/** A person's tokens, newest first; never the tokens themselves. */
export async function listTokens(knex: Knex, person: Reader): Promise<TokenList> {
  const rows = await knex("api_token")
    .where({ person_id: person.id })
    .orderBy("id", "desc")
    .select<{ id: number; name: string; created_at: Date; last_used_at: Date | null }[]>("*");
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    createdAt: row.created_at.toISOString(),
    lastUsedAt: row.last_used_at?.toISOString() ?? null,
  }));
}

/** Makes a token. It is told once: only its hash is kept. */
export async function createToken(
  knex: Knex,
  registered: Pick<RegisteredCompany, "key">,
  person: Reader,
  name: string,
): Promise<NewToken> {
  const [{ count }] = (await knex("api_token").where({ person_id: person.id }).count("* as count")) as [
    { count: string },
  ];
  if (Number(count) >= MOST_TOKENS)
    throw new ProblemError("invalid-change", `You have ${count} tokens already. Revoke one that is not used any more.`);
  const token = tokenPrefix(registered) + randomBytes(32).toString("base64url");
  await knex("api_token").insert({ person_id: person.id, name, token_hash: hash(token) });
  return { token };
}

/** Ends a token; it opens nothing from then on. */
export async function revokeToken(knex: Knex, person: Reader, id: number): Promise<void> {
  const gone = await knex("api_token").where({ id, person_id: person.id }).delete();
  if (gone === 0) throw new ProblemError("not-found", `You have no token ${id}.`);
}

/** The person a token speaks for; `undefined` when it is none or was revoked. */
export async function readToken(knex: Knex, token: string): Promise<Reader | undefined> {
  const row = await knex("api_token")
    .join("person", "person.id", "api_token.person_id")
    .where("api_token.token_hash", hash(token))
    .first<(PersonRow & { token_id: number }) | undefined>("person.*", "api_token.id as token_id");
  if (!row) return undefined;
  await knex("api_token").where({ id: row.token_id }).update({ last_used_at: knex.fn.now() });
  return toReader(row);
}

function hash(token: string): Buffer {
  return createHash("sha256").update(token).digest();
}
