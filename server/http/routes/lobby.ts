import type { CookieOptions, Request } from "express";
import { rateLimit } from "express-rate-limit";
import type { Knex } from "knex";
import type { CompanyList } from "#contract/companies.ts";
import type { LOBBY } from "#contract/operations/lobby.ts";
import { COMPANY_COOKIE, sessionCookie } from "#server/access/session-cookie.ts";
import { signIn } from "#server/access/sessions.ts";
import type { CompanyApps } from "#server/companies/company-apps.ts";
import { listCompanies, SAMPLE_COMPANY, urlOfCompany } from "#server/companies/registry.ts";
import { connect } from "#server/db/connect.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { openSession } from "../request-reader.ts";
import type { Routes } from "../serve-operations.ts";

/** Which company a browser has entered is kept for a year: it is where its people come back to. */
const ENTERED: CookieOptions = { httpOnly: true, sameSite: "lax", path: "/", maxAge: 365 * 86_400_000 };

/** The way into a company: which ones there are, entering one, starting one. */
export function lobbyRoutes({
  knex,
  databaseUrl,
  companies,
  hasSample = true,
  startLimit = 30,
  mayStart,
}: {
  knex: Knex;
  databaseUrl: string;
  companies: CompanyApps;
  hasSample?: boolean;
  /** Companies that are started from an address in an hour before waiting is asked for. */
  startLimit?: number;
  /** Whether a company can be started from where a request comes. */
  mayStart: (req: Request) => boolean;
}): Routes<typeof LOBBY> {
  const listFor = async (req: Request, entered: string): Promise<CompanyList> => {
    await companies.ready();
    const spaces = await listCompanies(knex, { hasSample });
    return {
      companies: spaces.map(({ key, name }) => ({ key, name, isSample: key === SAMPLE_COMPANY.key })),
      entered: spaces.find(({ key }) => key === entered)?.key ?? null,
      mayStart: mayStart(req),
    };
  };
  const limitStarts = rateLimit({
    windowMs: 60 * 60_000,
    limit: startLimit,
    // What was refused started nothing.
    skipFailedRequests: true,
    validate: { xForwardedForHeader: false, forwardedHeader: false },
    standardHeaders: "draft-8",
    legacyHeaders: false,
    handler: () => {
      throw new ProblemError("too-many-requests", "Too many companies were started from here. Wait an hour.");
    },
  });
  return {
    companies: ({ req }) => listFor(req, enteredBy(req)),
    enterCompany: async ({ req, res, body: { company } }) => {
      const list = await listFor(req, company);
      if (list.entered === null)
        throw new ProblemError("not-found", `There is no company "${company}" here. It may have been removed.`);
      res.cookie(COMPANY_COOKIE, company, ENTERED);
      return list;
    },
    startCompany: {
      before: [
        limitStarts,
        (req, _res, next) => {
          if (mayStart(req)) return next();
          throw new ProblemError(
            "not-allowed",
            "Companies can be started on the server's own machine, or on a server started with HACKLE_ONE_CLICK=on.",
          );
        },
      ],
      run: async ({ res, body }) => {
        const registered = await companies.start(body);
        const own = connect(urlOfCompany(databaseUrl, registered.schema), { poolSize: 1 });
        try {
          const { email, password } = body.administrator;
          res.cookie(COMPANY_COOKIE, registered.key, ENTERED);
          return await openSession(own, sessionCookie(registered), res, await signIn(own, email, password));
        } finally {
          await own.destroy();
        }
      },
    },
  };
}

function enteredBy(req: Request): string {
  const entered: unknown = (req.cookies as Record<string, unknown>)[COMPANY_COOKIE];
  return typeof entered === "string" ? entered : "";
}
