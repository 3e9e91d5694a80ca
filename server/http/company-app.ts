import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader } from "#server/db/structure.ts";
import { followVersion } from "#server/db/follow-version.ts";
import { CellKeeper, type MemoryState } from "#server/facts/memory/cell-keeper.ts";
import { EnginePool } from "#server/engine/engine-pool.ts";
import { Workspaces } from "#server/facts/workspace.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
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
import { readerOf, requireOwnPassword, requireReader, sessionRoutes } from "./routes/session-routes.ts";
import { whenGone } from "./when-gone.ts";
import { sessionCookie } from "#server/access/session-cookie.ts";
import { SAMPLE_SPACE, type Space } from "#server/companies/registry.ts";
import { companyRoutes } from "./routes/company-routes.ts";
import { peopleRoutes } from "./routes/people-routes.ts";

/** What the application of a company needs from outside. */
export interface CompanyAppOptions {
  readonly knex: Knex;
  /** A replica of the same database, for reading facts. */
  readonly replica?: Knex | null;
  readonly logger: Logger;
  /** Where threads of their own find the database. */
  readonly databaseUrl: string;
  readonly store: FileStore;
  /** Failed sign-ins per address and quarter of an hour before waiting is asked for. */
  readonly signInLimit?: number;
  /** Bytes in which facts may be kept in memory; 0 leaves all of them in the database. */
  readonly memoryBudget?: number;
  /** Threads that answer panels from memory; with none the server's own thread does. */
  readonly engineCount?: number;
  /** Whether somebody may sign in with one click as a person of the sample company. */
  readonly hasOneClick: (req: Request) => boolean;
  /** The company it is of; the sample where nothing is said. */
  readonly space?: Space;
  /** Removes the company whole. */
  readonly onRemoved?: () => Promise<void>;
}

/** The application of one company, and how to end what goes on beside its requests. */
export interface CompanyApp {
  readonly routes: Router;
  close(): Promise<void>;
}

/** Puts a company's routes together. Holds no state but caches and the jobs it runs. */
export function createCompanyApp({
  knex,
  replica = null,
  logger,
  databaseUrl,
  store,
  signInLimit = 20,
  memoryBudget = 0,
  engineCount = 0,
  hasOneClick,
  space = { ...SAMPLE_SPACE, name: "" },
  onRemoved = () => Promise.resolve(),
}: CompanyAppOptions): CompanyApp {
  const app = Router();
  const jobs = new Jobs({ knex, databaseUrl, store, logger });
  const cookie = sessionCookie(space);
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
  app.use(
    sessionRoutes({
      knex,
      readStructure,
      signInLimit,
      hasOneClick,
      cookie,
    }),
  );
  app.use("/api", requireReader(knex, cookie), requireOwnPassword);
  app.use(companyRoutes({ knex, space, store, onRemoved }));
  app.use(peopleRoutes(knex));
  app.use(homeRoutes(reading));
  app.use(packRoutes({ knex, readStructure }));
  app.use(figureRoutes({ ...reading, engines }));
  app.use(tokenRoutes(knex, space));
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
  const stopSchedule = startSchedule({ knex, readStructure, jobs, store }, logger);
  const close = async () => {
    stopSchedule();
    await following?.stop();
    await jobs.close();
    await keeper?.settled();
    await engines.close();
  };
  return { routes: app, close };
}

/** Says in the log what became of keeping facts in memory. */
function logMemory(logger: Logger): (state: MemoryState, error?: unknown) => void {
  return (state, error) => {
    if (state.is === "failed")
      logger.warn({ err: error }, "facts could not be read into memory; answers come from SQL");
    else if (state.is === "beyond") logger.warn(state, "facts take more memory than they may; answers come from SQL");
    else logger.info(state, "facts in memory");
  };
}
