import { OPERATIONS } from "#contract/operations.ts";
import { Router, type CookieOptions, type Request, type RequestHandler, type Response } from "express";
import { ipKeyGenerator, rateLimit } from "express-rate-limit";
import type { Knex } from "knex";
import { scopeName } from "#core/dimensions/scope.ts";
import { passwordChangeSchema } from "#contract/companies.ts";
import {
  companyLookSchema,
  opensSchema,
  ownWritingSchema,
  sampleSignInSchema,
  signInSchema,
  type Person,
} from "#contract/session.ts";
import { readToken } from "#server/access/api-tokens.ts";
import { chooseOpens, chooseWriting, describeSession } from "#server/access/describe-session.ts";
import { choosePassword } from "#server/access/people.ts";
import type { Reader } from "#server/access/reader.ts";
import { requireEditor } from "#server/access/roles.ts";
import {
  closeSession,
  readSession,
  samplePeople,
  SESSION_HOURS,
  signIn,
  signInSample,
} from "#server/access/sessions.ts";
import { onceATurn } from "#server/db/once-a-turn.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

const COOKIE_OPTIONS: CookieOptions = { httpOnly: true, sameSite: "lax", path: "/", maxAge: SESSION_HOURS * 3_600_000 };

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
}): Router {
  const router = Router();
  const limitFailures = [failureLimit(signInLimit * MOST_PEOPLE), failureLimit(signInLimit, emailOf)];

  router.get("/api/sample-people", async (req, res) => {
    if (!hasOneClick(req)) {
      res.json([]);
      return;
    }
    const [people, { dimensions }] = await Promise.all([samplePeople(knex), readStructure()]);
    res.json(
      people.map((reader) => ({ ...toPerson(reader), sees: scopeName(dimensions, reader.scope, "everything") })),
    );
  });
  router.post("/api/session", ...limitFailures, async (req, res) => {
    const { email, password } = readRequest(signInSchema, req.body);
    await answerSignedIn(knex, cookie, res, await signIn(knex, email, password));
  });
  router.post("/api/session/sample", async (req, res) => {
    if (!hasOneClick(req))
      throw new ProblemError(
        "not-allowed",
        "Signing in with one click works on the server's own machine only. Sign in with e-mail and password, or start the server with HACKLE_ONE_CLICK=on.",
      );
    await answerSignedIn(knex, cookie, res, await signInSample(knex, readRequest(sampleSignInSchema, req.body).email));
  });
  const answerSession = async (res: Response) => res.json(await describeSession(knex, readerOf(res)));
  const signedIn = requireReader(knex, cookie);
  router.get("/api/session", signedIn, (_req, res) => answerSession(res));
  router.put("/api/session/opens", signedIn, async (req, res) => {
    await chooseOpens(knex, readerOf(res), readRequest(opensSchema, req.body).pack);
    await answerSession(res);
  });
  router.put(OPERATIONS.setWriting.path, signedIn, async (req, res) => {
    await chooseWriting(knex, readerOf(res), readRequest(ownWritingSchema, req.body));
    await answerSession(res);
  });
  router.put("/api/session/password", signedIn, ...limitFailures, async (req, res) => {
    await choosePassword(knex, readerOf(res), readRequest(passwordChangeSchema, req.body), tokenOf(req, cookie) ?? "");
    await answerSession(res);
  });
  router.put("/api/company/look", signedIn, async (req, res) => {
    requireEditor(readerOf(res));
    await knex("company").update(readRequest(companyLookSchema, req.body));
    await answerSession(res);
  });
  router.delete("/api/session", async (req, res) => {
    const token = tokenOf(req, cookie);
    if (token) await closeSession(knex, token);
    res.clearCookie(cookie, { path: "/" }).status(204).end();
  });
  return router;
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

/** Lets only signed-in people through. */
export function requireReader(knex: Knex, cookie: string): RequestHandler {
  const sessionOf = onceATurn((token: string) => readSession(knex, token));
  return async (req, res, next) => {
    const bearer = bearerOf(req);
    if (bearer !== undefined) {
      res.locals["reader"] = await readerByToken(knex, req, bearer);
      next();
      return;
    }
    const token = tokenOf(req, cookie);
    const reader = token ? await sessionOf(token) : undefined;
    if (!reader) {
      throw new ProblemError(
        "not-signed-in",
        token ? "Your session has ended. Sign in again; the page will be where it was." : "Sign in to see figures.",
      );
    }
    res.locals["reader"] = reader;
    next();
  };
}

/** Lets only those through who have a password of their own. */
export const requireOwnPassword: RequestHandler = (_req, res, next) => {
  if (readerOf(res).mustChoosePassword)
    throw new ProblemError("not-allowed", "Choose a password of your own first: the one you have was given to you.");
  next();
};

/** The person a request is answered for; only behind `requireReader`. */
export function readerOf(res: Response): Reader {
  return res.locals["reader"] as Reader;
}

function bearerOf(req: Request): string | undefined {
  return /^Bearer (.+)$/.exec(req.get("authorization") ?? "")?.[1];
}

/** Tokens read: they change nothing, whatever their person may. */
async function readerByToken(knex: Knex, req: Request, token: string): Promise<Reader> {
  if (req.method !== "GET")
    throw new ProblemError("not-allowed", "A personal token reads only. Sign in to change something.");
  const reader = await readToken(knex, token);
  if (reader) return reader;
  throw new ProblemError("not-signed-in", "This token is not known, or was revoked. Make another one under Export.");
}

/** Opens a session for a browser. */
export async function answerSignedIn(
  knex: Knex,
  cookie: string,
  res: Response,
  { token, reader }: { token: string; reader: Reader },
): Promise<void> {
  const session = await describeSession(knex, reader);
  res.cookie(cookie, token, COOKIE_OPTIONS).json(session);
}

function tokenOf(req: Request, cookie: string): string | undefined {
  const token: unknown = (req.cookies as Record<string, unknown>)[cookie];
  return typeof token === "string" && token !== "" ? token : undefined;
}

function toPerson({ email, name, title, role }: Reader): Person {
  return { email, name, title, role };
}
