import type { CookieOptions, Request, Response } from "express";
import type { Knex } from "knex";
import type { Session } from "#contract/session.ts";
import { readToken } from "#server/access/api-tokens.ts";
import { describeSession } from "#server/access/describe-session.ts";
import type { Reader } from "#server/access/reader.ts";
import { readSession, SESSION_HOURS } from "#server/access/sessions.ts";
import { onceATurn } from "#server/db/once-a-turn.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

const COOKIE_OPTIONS: CookieOptions = { httpOnly: true, sameSite: "lax", path: "/", maxAge: SESSION_HOURS * 3_600_000 };

/** Tells who sends a request, by session cookie or personal token. What it returns throws "not-signed-in". */
export function requestReader(knex: Knex, cookie: string): (req: Request) => Promise<Reader> {
  const sessionOf = onceATurn((token: string) => readSession(knex, token));
  return async (req) => {
    const bearer = /^Bearer (.+)$/.exec(req.get("authorization") ?? "")?.[1];
    if (bearer !== undefined) return readerByToken(knex, req, bearer);
    const token = sessionToken(req, cookie);
    const reader = token ? await sessionOf(token) : undefined;
    if (reader) return reader;
    throw new ProblemError(
      "not-signed-in",
      token ? "Your session has ended. Sign in again to return to this page." : "Sign in to see figures.",
    );
  };
}

/** Tokens read: they change nothing, whatever their person may. */
async function readerByToken(knex: Knex, req: Request, token: string): Promise<Reader> {
  if (req.method !== "GET") throw new ProblemError("not-allowed", "API tokens are read-only. Sign in to make changes.");
  const reader = await readToken(knex, token);
  if (reader) return reader;
  throw new ProblemError("not-signed-in", "This token is unknown or revoked. Create another under Export.");
}

/** Opens a session for a browser, and says whose it is. */
export async function openSession(
  knex: Knex,
  cookie: string,
  res: Response,
  { token, reader }: { token: string; reader: Reader },
): Promise<Session> {
  const session = await describeSession(knex, reader);
  res.cookie(cookie, token, COOKIE_OPTIONS);
  return session;
}

/** The token of the session that a request's cookie names. */
export function sessionToken(req: Request, cookie: string): string | undefined {
  const token: unknown = (req.cookies as Record<string, unknown>)[cookie];
  return typeof token === "string" && token !== "" ? token : undefined;
}
