import { Router, type CookieOptions, type Request } from "express";
import { rateLimit } from "express-rate-limit";
import type { Knex } from "knex";
import { companyEnterSchema, companyStartSchema, type CompanyList } from "#contract/companies.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { COMPANY_COOKIE, sessionCookie } from "#server/access/session-cookie.ts";
import { signIn } from "#server/access/sessions.ts";
import type { CompanyApps } from "#server/companies/company-apps.ts";
import { listSpaces, SAMPLE_SPACE, urlOfSpace } from "#server/companies/registry.ts";
import { connect } from "#server/db/connect.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { answerSignedIn } from "./session-routes.ts";

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
}): Router {
  const router = Router();
  const listFor = async (req: Request, entered: string): Promise<CompanyList> => {
    await companies.ready();
    const spaces = await listSpaces(knex, { hasSample });
    return {
      companies: spaces.map(({ key, name }) => ({ key, name, isSample: key === SAMPLE_SPACE.key })),
      entered: spaces.find(({ key }) => key === entered)?.key ?? null,
      mayStart: mayStart(req),
    };
  };
  const enteredBy = (req: Request): string => {
    const entered: unknown = (req.cookies as Record<string, unknown>)[COMPANY_COOKIE];
    return typeof entered === "string" ? entered : "";
  };
  router.get(OPERATIONS.companies.path, async (req, res) => {
    res.json(await listFor(req, enteredBy(req)));
  });
  router.put(OPERATIONS.enterCompany.path, async (req, res) => {
    const { company } = readRequest(companyEnterSchema, req.body);
    const list = await listFor(req, company);
    if (list.entered === null)
      throw new ProblemError("not-found", `There is no company "${company}" here. It may have been removed.`);
    res.cookie(COMPANY_COOKIE, company, ENTERED).json(list);
  });
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
  router.post(OPERATIONS.startCompany.path, limitStarts, async (req, res) => {
    if (!mayStart(req))
      throw new ProblemError(
        "not-allowed",
        "A company is started on the server's own machine, or on a server that was started with HACKLE_ONE_CLICK=on.",
      );
    const start = readRequest(companyStartSchema, req.body);
    const space = await companies.start(start);
    const own = connect(urlOfSpace(databaseUrl, space.schema), { poolSize: 1 });
    try {
      const { email, password } = start.administrator;
      res.cookie(COMPANY_COOKIE, space.key, ENTERED);
      await answerSignedIn(own, sessionCookie(space), res, await signIn(own, email, password));
    } finally {
      await own.destroy();
    }
  });
  return router;
}
