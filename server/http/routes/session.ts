import type { Request, RequestHandler } from "express";
import { ipKeyGenerator, rateLimit } from "express-rate-limit";
import type { Knex } from "knex";
import { scopeName } from "#core/dimensions/scope.ts";
import type { SESSION } from "#contract/operations/session.ts";
import type { Person } from "#contract/session.ts";
import { chooseOpens, chooseWriting, describeSession } from "#server/access/describe-session.ts";
import { choosePassword } from "#server/access/people.ts";
import type { Reader } from "#server/access/reader.ts";
import { closeSession, samplePeople, signIn, signInSample } from "#server/access/sessions.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { openSession, sessionToken } from "../request-reader.ts";
import type { Routes } from "../serve-operations.ts";

/** Signing in and out. */
export function sessionRoutes({
  knex,
  readStructure,
  signInLimit,
  hasOneClick,
  cookie,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
  signInLimit: number;
  /** Whether a request may sign in without a password as a person of the sample company. */
  hasOneClick: (req: Request) => boolean;
  /** The name of the cookie that holds a session: each company has its own, so that one can be left and come back to. */
  cookie: string;
}): Routes<typeof SESSION> {
  const limitFailures = [failureLimit(signInLimit * MOST_PEOPLE), failureLimit(signInLimit, emailOf)];
  return {
    samplePeople: async ({ req }) => {
      if (!hasOneClick(req)) return [];
      const [people, { dimensions }] = await Promise.all([samplePeople(knex), readStructure()]);
      return people.map((reader) => ({ ...toPerson(reader), sees: scopeName(dimensions, reader.scope, "everything") }));
    },
    signIn: {
      before: limitFailures,
      run: async ({ res, body: { email, password } }) =>
        openSession(knex, cookie, res, await signIn(knex, email, password)),
    },
    signInSample: async ({ req, res, body }) => {
      if (!hasOneClick(req))
        throw new ProblemError(
          "not-allowed",
          "One-click sign-in works on the server's own machine only. Sign in with e-mail and password, or start the server with HACKLE_ONE_CLICK=on.",
        );
      return openSession(knex, cookie, res, await signInSample(knex, body.email));
    },
    session: ({ reader }) => describeSession(knex, reader),
    setOpens: async ({ reader, body }) => {
      await chooseOpens(knex, reader, body.pack);
      return describeSession(knex, reader);
    },
    setWriting: async ({ reader, body }) => {
      await chooseWriting(knex, reader, body);
      return describeSession(knex, reader);
    },
    setPassword: {
      before: limitFailures,
      run: async ({ reader, body, req }) => {
        await choosePassword(knex, reader, body, sessionToken(req, cookie) ?? "");
        return describeSession(knex, reader);
      },
    },
    signOut: async ({ req, res }) => {
      const token = sessionToken(req, cookie);
      if (token) await closeSession(knex, token);
      res.clearCookie(cookie, { path: "/" });
    },
  };
}

/** From one address so many times more sign-ins may fail than of one person: many people may share it. */
const MOST_PEOPLE = 15;

/** Asks whoever fails to sign in too often to wait: by the address they come from, and whom they say they are. */
function failureLimit(limit: number, whose: (req: Request) => string = () => ""): RequestHandler {
  return rateLimit({
    windowMs: 15 * 60_000,
    limit,
    skipSuccessfulRequests: true,
    standardHeaders: "draft-8",
    legacyHeaders: false,
    // Where requests come from is what the trusted proxies say, or the connection; what others say of it is not heard.
    validate: { xForwardedForHeader: false, forwardedHeader: false },
    keyGenerator: (req) => `${ipKeyGenerator(req.ip ?? "")} ${whose(req)}`,
    handler: () => {
      throw new ProblemError(
        "too-many-requests",
        "Too many failed sign-ins from this address. Wait a quarter of an hour and try again.",
      );
    },
  });
}

function emailOf(req: Request): string {
  const { email } = (req.body ?? {}) as { email?: unknown };
  return typeof email === "string" ? email.trim().toLowerCase().slice(0, 200) : "";
}

function toPerson({ email, name, title, role }: Reader): Person {
  return { email, name, title, role };
}
