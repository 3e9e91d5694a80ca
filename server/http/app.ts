import { Router, type Express, type Request } from "express";
import type { Knex } from "knex";
import { CompanyApps, type CompanyAppsOptions } from "#server/companies/company-apps.ts";
import { LOBBY } from "#contract/operations/lobby.ts";
import { lobbyRoutes } from "./routes/lobby.ts";
import { serveOperations } from "./serve-operations.ts";
import { answerProblem, baseApp } from "./base-app.ts";
import { nearness, servedHosts } from "./guards/origin.ts";
import { serveWeb } from "./serve-web.ts";

/** What the application needs from outside. */
export interface AppOptions extends Omit<CompanyAppsOptions, "hasOneClick"> {
  readonly knex: Knex;
  /** The folder of the built web client; without it only the API is served. */
  readonly webFolder?: string;
  /** Companies started from an address in an hour before waiting is asked for. */
  readonly startLimit?: number;
  /** The names the server answers for. */
  readonly hosts?: ReadonlySet<string>;
  /** Proxies whose word is taken for where a request comes from. */
  readonly proxies?: readonly string[];
  /** Whether one click signs in, and companies are started, from other machines too. */
  readonly isOneClickOpen?: boolean;
}

/** The application, and how to end what goes on beside its requests. */
export interface Application {
  readonly app: Express;
  close(): Promise<void>;
}

/** Puts the application together: what every request passes, the way into a company, and the companies themselves. */
export function createApp({
  webFolder,
  hosts = servedHosts({}),
  proxies = [],
  isOneClickOpen = false,
  ...options
}: AppOptions): Application {
  const { logger } = options;
  const app = baseApp({ logger, hosts, proxies });
  const isNear = nearness({ hosts, proxies });
  const hasOneClick = (req: Request) => isOneClickOpen || isNear(req);
  const companies = new CompanyApps({ ...options, hasOneClick });
  const lobby = Router();
  serveOperations(lobby, LOBBY, lobbyRoutes({ ...options, companies, mayStart: hasOneClick }), {
    isAnswerChecked: options.isAnswerChecked ?? false,
  });
  app.use(lobby);
  app.use((req, res, next) => (req.path.startsWith("/api/") ? companies.handle(req, res, next) : next()));
  if (webFolder) serveWeb(app, webFolder);
  app.use(answerProblem(logger));
  return { app, close: () => companies.close() };
}
