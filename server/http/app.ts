import { existsSync } from "node:fs";
import { join } from "node:path";
import { constants } from "node:zlib";
import compression from "compression";
import cookieParser from "cookie-parser";
import express, { type ErrorRequestHandler, type Express, type Response } from "express";
import helmet from "helmet";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { isGivenUp } from "#server/db/ask-unless-gone.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { followVersion } from "#server/db/follow-version.ts";
import { CellKeeper, type MemoryState } from "#server/facts/memory/cell-keeper.ts";
import { EnginePool } from "#server/engine/engine-pool.ts";
import { Workspaces } from "#server/facts/workspace.ts";
import { ProblemError, problemDocument } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import type { FileStore } from "#server/intake/file-store.ts";
import { startSchedule } from "#server/feeds/schedule.ts";
import { Jobs } from "#server/intake/jobs/jobs.ts";
import { structureRoutes } from "./routes/structure-routes.ts";
import { draftRoutes } from "./routes/draft-routes.ts";
import { eventRoutes } from "./routes/event-routes.ts";
import { exportRoutes } from "./routes/export-routes.ts";
import { feedRoutes } from "./routes/feed-routes.ts";
import { kpiRoutes } from "./routes/kpi-routes.ts";
import { homeRoutes } from "./routes/home-routes.ts";
import { loadRoutes } from "./routes/load-routes.ts";
import { healthRoutes } from "./routes/health-routes.ts";
import { figureRoutes } from "./routes/figure-routes.ts";
import { packRoutes } from "./routes/pack-routes.ts";
import { versionRoutes } from "./routes/version-routes.ts";
import { tokenRoutes } from "./routes/token-routes.ts";
import { readerOf, requireReader, sessionRoutes } from "./routes/session-routes.ts";
import { csvBody, jsonBody } from "./guards/request-body.ts";
import { whenGone } from "./when-gone.ts";
import { isLoopback, refuseOtherHosts, refuseOtherOrigins, servedHosts } from "./guards/origin.ts";
import { refuseUnkeepableText } from "./guards/request-text.ts";

/** What the application needs from outside. */
export interface AppOptions {
  readonly knex: Knex;
  /** A replica of the same database, for reading facts. */
  readonly replica?: Knex | null;
  readonly logger: Logger;
  /** Where threads of their own find the database. */
  readonly databaseUrl: string;
  readonly store: FileStore;
  /** The folder of the built web client; without it only the API is served. */
  readonly webFolder?: string;
  /** Failed sign-ins per address and quarter of an hour before waiting is asked for. */
  readonly signInLimit?: number;
  /** The names the server answers for. */
  readonly hosts?: ReadonlySet<string>;
  /** Bytes in which facts may be kept in memory; 0 leaves all of them in the database. */
  readonly memoryBudget?: number;
  /** Threads that answer panels from memory; with none the server's own thread does. */
  readonly engineCount?: number;
  /** Whether people of the sample company sign in with one click from other machines too. */
  readonly isOneClickOpen?: boolean;
}

/** The application, and how to end what goes on beside its requests. */
export interface Application {
  readonly app: Express;
  close(): Promise<void>;
}

/** Puts the routes together. Holds no state but caches and the jobs it runs. */
export function createApp({
  knex,
  replica = null,
  logger,
  databaseUrl,
  store,
  webFolder,
  signInLimit = 20,
  hosts = servedHosts({}),
  memoryBudget = 0,
  engineCount = 0,
  isOneClickOpen = false,
}: AppOptions): Application {
  const app = express();
  const jobs = new Jobs({ knex, databaseUrl, store, logger });
  app.disable("x-powered-by");
  app.set("query parser", "simple");
  app.use(
    pinoHttp({
      logger,
      autoLogging: { ignore: (req) => !req.url?.startsWith("/api/") || req.url === "/api/health" },
      serializers: {
        req: (req: { method: string; url: string }) => ({ method: req.method, url: req.url.split("?")[0] }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
      },
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          "script-src": ["'self'"],
          "style-src": ["'self'", "'unsafe-inline'"],
          "img-src": ["'self'", "data:"],
          "upgrade-insecure-requests": null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use((req, res, next) => (req.path.startsWith("/api/") ? packQuickly : packTightly)(req, res, next));
  app.use(serverTiming);
  app.use("/api", (_req, res, next) => {
    res.setHeader("Cache-Control", "no-store");
    next();
  });
  app.use(refuseOtherHosts(hosts));
  app.use(refuseOtherOrigins(hosts));
  app.use(jsonBody, csvBody);
  app.use(refuseUnkeepableText);
  app.use(cookieParser());

  const readStructure = structureReader(knex);
  const database = new ReadDatabase(knex, replica, (error) => {
    logger.warn({ err: error }, "the replica does not answer; facts are read from the database itself");
  });
  const keeper = memoryBudget > 0 ? new CellKeeper(database, memoryBudget, logMemory(logger)) : null;
  const engines = new EnginePool(keeper ? engineCount : 0, (error) => {
    logger.error({ err: error }, "an engine ended; another one takes its place");
  });
  const workspaces = new Workspaces({ database, readStructure, keeper, onOpened: (memory) => engines.prepare(memory) });
  // Whoever asks first after a change finds everything ready; what goes wrong here is met, and told, when they ask.
  const moveOn = () => void keeper?.refresh().then(() => workspaces.prepare().catch(() => {}));
  const following = keeper && followVersion(databaseUrl, moveOn);
  const workspaceFor = (res: Response) => workspaces.open(readerOf(res), whenGone(res));
  const reading = { knex, readStructure, workspaceFor };
  app.use(healthRoutes(knex, { memory: () => keeper?.state ?? { is: "off" }, engines: () => engines.upCount }));
  app.use(sessionRoutes({ knex, readStructure, signInLimit, hasOneClick: (req) => isOneClickOpen || isLoopback(req) }));
  app.use("/api", requireReader(knex));
  app.use(homeRoutes(reading));
  app.use(packRoutes({ knex, readStructure }));
  app.use(figureRoutes({ ...reading, engines }));
  app.use(tokenRoutes(knex));
  app.use(kpiRoutes(reading));
  app.use(versionRoutes(reading));
  app.use(eventRoutes(reading));
  app.use(draftRoutes({ knex, readStructure, jobs, store }));
  app.use(structureRoutes({ knex, readStructure }));
  app.use(exportRoutes(reading));
  app.use(feedRoutes({ knex, readStructure, jobs, store }));
  app.use(loadRoutes({ knex, readStructure, store }));
  app.use("/api", (req) => {
    throw new ProblemError(
      "not-found",
      `There is no operation ${req.method} ${req.baseUrl}${req.path}. /api/openapi.json lists them.`,
    );
  });
  if (webFolder) serveWeb(app, webFolder);
  app.use(answerProblem(logger));
  const stopSchedule = startSchedule({ knex, readStructure, jobs, store }, logger);
  const close = async () => {
    stopSchedule();
    await following?.stop();
    await jobs.close();
    await keeper?.settled();
    await engines.close();
  };
  return { app, close };
}

/** Answers took milliseconds to make and must not take longer to pack. */
const packQuickly = compression({
  level: constants.Z_BEST_SPEED,
  brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } },
});

/** The client's files are sent once to each browser, over whatever line there is. */
const packTightly = compression();

/** Says in the log what became of keeping facts in memory. */
function logMemory(logger: Logger): (state: MemoryState, error?: unknown) => void {
  return (state, error) => {
    if (state.is === "failed")
      logger.warn({ err: error }, "facts could not be read into memory; answers come from SQL");
    else if (state.is === "beyond") logger.warn(state, "facts take more memory than they may; answers come from SQL");
    else logger.info(state, "facts in memory");
  };
}

function serveWeb(app: Express, folder: string): void {
  app.use("/assets", express.static(join(folder, "assets"), { immutable: true, maxAge: "1y", fallthrough: true }));
  app.use(express.static(folder, { index: false }));
  app.get(/^(?!\/assets\/).*/, (_req, res) => {
    const index = join(folder, "index.html");
    if (!existsSync(index))
      throw new ProblemError("not-found", "The web client is not built. Start Hackle with npm start.");
    res.setHeader("Cache-Control", "no-cache");
    res.sendFile(index);
  });
}

/** Says in a header how long the server took, so that anyone can see it in the browser's network panel. */
const serverTiming: express.RequestHandler = (_req, res, next) => {
  const start = performance.now();
  const writeHead = res.writeHead.bind(res);
  res.writeHead = ((...args: Parameters<typeof writeHead>) => {
    if (!res.headersSent) res.setHeader("Server-Timing", `total;dur=${(performance.now() - start).toFixed(1)}`);
    return writeHead(...args);
  }) as typeof res.writeHead;
  next();
};

function answerProblem(logger: Logger): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    // Nobody is there to be told of what was given up because they went.
    if (res.destroyed && isGivenUp(error)) return;
    if (res.headersSent) {
      next(error);
      return;
    }
    const problem = toProblem(error);
    if (problem.code === "internal") logger.error({ err: problem.cause, url: req.path }, "unforeseen error");
    if (problem.code === "database-unavailable")
      logger.warn({ url: req.path, reason: (problem.cause as Error | undefined)?.message }, "database does not answer");
    const document = problemDocument(problem);
    if (document.status === 503) res.setHeader("Retry-After", "2");
    // What is left of an upload that was refused is not read: its connection serves nothing more.
    if (!req.complete) res.setHeader("Connection", "close");
    res.status(document.status).type("application/problem+json").send(JSON.stringify(document));
  };
}
