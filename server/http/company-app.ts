import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { connect } from "#server/db/connect.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader, type Structure } from "#server/db/structure.ts";
import type { Downloads } from "#server/export/downloads.ts";
import { CellKeeper, type MemoryState } from "#server/facts/memory/cell-keeper.ts";
import type { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { makePagesReady } from "#server/engine/make-ready.ts";
import { readFits } from "#server/engine/kept-fits.ts";
import type { EnginePool } from "#server/engine/engine-pool.ts";
import { Workspaces } from "#server/facts/workspace.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { FileStore } from "#server/intake/file-store.ts";
import type { IntakeProcesses } from "#server/intake/jobs/task.ts";
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
import type { Space } from "#server/companies/registry.ts";
import { companyRoutes } from "./routes/company-routes.ts";
import { peopleRoutes } from "./routes/people-routes.ts";

/** What all companies of an installation share: one budget of memory, threads, processes and downloads for all of them. */
export interface SharedMeans {
  readonly logger: Logger;
  /** Failed sign-ins per address and quarter of an hour before waiting is asked for. */
  readonly signInLimit: number;
  /** Bytes in which facts may be kept in memory; none where all are left in the database. */
  readonly memory: MemoryBudget | null;
  /** Threads that answer panels from memory. */
  readonly engines: EnginePool;
  /** Processes for what somebody waits for at their screen, and for what goes on beside the requests. */
  readonly quickly: IntakeProcesses;
  readonly processes: IntakeProcesses;
  readonly downloads: Downloads;
  /** Whether somebody may sign in with one click as a person of the sample company. */
  readonly hasOneClick: (req: Request) => boolean;
}

/** One company: where its data are, and what is its own. */
export interface CompanyPlace {
  readonly space: Space;
  readonly knex: Knex;
  /** A replica of the same database, for reading facts. */
  readonly replica: Knex | null;
  /** Where processes of their own find the database. */
  readonly databaseUrl: string;
  readonly store: FileStore;
  /** Removes the company whole. */
  readonly onRemoved: () => Promise<void>;
}

/** The application of one company, and how to end it. */
export interface CompanyApp {
  readonly routes: Router;
  readonly readStructure: () => Promise<Structure>;
  /** Makes ready what of its pages takes long, before anybody asks for it. */
  makeReady(signal: AbortSignal): Promise<void>;
  /** The data were changed, by whichever server: what is kept of them moves on. */
  moveOn(): void;
  close(): Promise<void>;
}

/** Exports of a company have so many connections of their own, so that they take none from pages. */
const EXPORT_POOL = 2;

/** Puts a company's routes together. Holds no state but caches. */
export function createCompanyApp(
  { space, knex, replica, databaseUrl, store, onRemoved }: CompanyPlace,
  { logger, signInLimit, memory, engines, quickly, processes, downloads, hasOneClick }: SharedMeans,
): CompanyApp {
  const app = Router();
  const cookie = sessionCookie(space);
  const readStructure = structureReader(knex);
  const database = new ReadDatabase(knex, replica, (error) => {
    logger.warn({ err: error }, "the replica does not answer; facts are read from the database itself");
  });
  const workspaces = new Workspaces({
    database,
    readStructure,
    keeper: memory && new CellKeeper(database, memory, noteMemory),
    onOpened: (facts) => {
      engines.prepare(facts, space.schema);
      bringFits();
    },
  });
  const { keeper } = workspaces;
  let hasFits = false;
  /** What was fitted before, by whichever server, is at hand for whoever asks first. */
  function bringFits(): void {
    if (hasFits) return;
    hasFits = true;
    readFits(knex).then(
      (fits) => engines.takeFits(fits),
      () => (hasFits = false),
    );
  }
  function noteMemory(state: MemoryState, error?: unknown): void {
    logMemory(logger, space.key, state, error);
    // Others have its place now: nothing may hold on to what was kept.
    if (state.is !== "building") return;
    workspaces.letGo();
    engines.letGo(space.schema);
  }
  // Whoever asks first after a change finds everything ready; what goes wrong here is met, and told, when they ask.
  const moveOn = () => void keeper?.refresh().then(() => workspaces.prepare().catch(() => {}));
  const workspaceFor = (res: Response) => workspaces.open(readerOf(res), whenGone(res));
  const exportsKnex = connect(databaseUrl, { poolSize: EXPORT_POOL });
  const reading = { knex, readStructure, workspaceFor };
  const intake = { knex, company: space.key, readStructure, store };
  const handing = { downloads, exportsKnex, personOf: (res: Response) => `${space.key}/${readerOf(res).id}` };
  app.use(healthRoutes(knex, { memory: () => keeper?.state ?? { is: "off" }, engines: () => engines.upCount }));
  app.use(sessionRoutes({ knex, readStructure, signInLimit, hasOneClick, cookie }));
  app.use("/api", requireReader(knex, cookie), requireOwnPassword);
  app.use(companyRoutes({ knex, space, store, onRemoved, ...handing }));
  app.use(peopleRoutes(knex));
  app.use(homeRoutes(reading));
  app.use(packRoutes({ knex, readStructure }));
  app.use(figureRoutes({ ...reading, engines }));
  app.use(tokenRoutes(knex, space));
  app.use(kpiRoutes(reading));
  app.use(versionRoutes(reading));
  app.use(eventRoutes(reading));
  app.use(draftRoutes({ ...intake, ...handing, place: { databaseUrl, store }, quickly, processes }));
  app.use(structureRoutes({ knex, readStructure }));
  app.use(exportRoutes({ readStructure, ...handing }));
  app.use(feedRoutes(intake));
  app.use(loadRoutes({ knex, readStructure, store, ...handing }));
  app.use("/api", (req) => {
    throw new ProblemError(
      "not-found",
      `There is no operation ${req.method} ${req.baseUrl}${req.path}. /api/openapi.json lists them.`,
    );
  });
  const close = async () => {
    await keeper?.settled();
    keeper?.close();
    await exportsKnex.destroy();
  };
  const makeReady = (signal: AbortSignal) => makePagesReady({ knex, workspaces, engines }, signal);
  return { routes: app, readStructure, makeReady, moveOn, close };
}

/** Says in the log what became of keeping facts in memory. */
function logMemory(logger: Logger, company: string, state: MemoryState, error?: unknown): void {
  if (state.is === "failed")
    logger.warn({ err: error, company }, "facts could not be read into memory; answers come from SQL");
  else if (state.is === "beyond")
    logger.warn({ ...state, company }, "facts take more memory than they may; answers come from SQL");
  else logger.info({ ...state, company }, "facts in memory");
}
