import { Router, type Request } from "express";
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
import { COMPANY } from "#contract/operations/company.ts";
import { DRAFTS } from "#contract/operations/drafts.ts";
import { EVENTS } from "#contract/operations/events.ts";
import { EXPORTS } from "#contract/operations/exports.ts";
import { FEEDS } from "#contract/operations/feeds.ts";
import { FIGURES } from "#contract/operations/figures.ts";
import { HEALTH } from "#contract/operations/health.ts";
import { HOME } from "#contract/operations/home.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import { LOADS } from "#contract/operations/loads.ts";
import { PACKS } from "#contract/operations/packs.ts";
import { PEOPLE } from "#contract/operations/people.ts";
import { SESSION } from "#contract/operations/session.ts";
import { STRUCTURE } from "#contract/operations/structure.ts";
import { TOKENS } from "#contract/operations/tokens.ts";
import { VERSIONS } from "#contract/operations/versions.ts";
import { companyRoutes } from "./routes/company.ts";
import { draftRoutes } from "./routes/drafts.ts";
import { eventRoutes } from "./routes/events.ts";
import { exportRoutes } from "./routes/exports.ts";
import { feedRoutes } from "./routes/feeds.ts";
import { figureRoutes } from "./routes/figures.ts";
import { healthRoutes } from "./routes/health.ts";
import { homeRoutes } from "./routes/home.ts";
import { kpiRoutes } from "./routes/kpis.ts";
import { loadRoutes } from "./routes/loads.ts";
import { packRoutes } from "./routes/packs.ts";
import { peopleRoutes } from "./routes/people.ts";
import { sessionRoutes } from "./routes/session.ts";
import { structureRoutes } from "./routes/structure.ts";
import { tokenRoutes } from "./routes/tokens.ts";
import { versionRoutes } from "./routes/versions.ts";
import type { ReadingMeans } from "./routes/reading-means.ts";
import { openApiDocument } from "./openapi.ts";
import { requestReader } from "./request-reader.ts";
import { serveOperations, type Routes, type Serving } from "./serve-operations.ts";
import type { Operation } from "#contract/operations/operation.ts";
import { sessionCookie } from "#server/access/session-cookie.ts";
import type { RegisteredCompany } from "#server/companies/registry.ts";

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
  /** Of how many months reviews are made ready before anybody asks; 0 for none. */
  readonly readyMonths: number;
  /** Whether every answer is held against its schema, as tests do. */
  readonly isAnswerChecked: boolean;
}

/** One company: where its data are, and what is its own. */
export interface CompanyPlace {
  readonly registered: RegisteredCompany;
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
  { registered, knex, replica, databaseUrl, store, onRemoved }: CompanyPlace,
  {
    logger,
    signInLimit,
    memory,
    engines,
    quickly,
    processes,
    downloads,
    hasOneClick,
    readyMonths,
    isAnswerChecked,
  }: SharedMeans,
): CompanyApp {
  const app = Router();
  const cookie = sessionCookie(registered);
  const readStructure = structureReader(knex);
  const database = new ReadDatabase(knex, replica, (error) => {
    logger.warn({ err: error }, "the replica does not answer; facts are read from the database itself");
  });
  const workspaces = new Workspaces({
    database,
    readStructure,
    keeper: memory && new CellKeeper(database, memory, noteMemory),
    onOpened: (facts) => {
      engines.prepare(facts, registered.schema);
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
    logMemory(logger, registered.key, state, error);
    // Others have its place now: nothing may hold on to what was kept.
    if (state.is !== "building") return;
    workspaces.letGo();
    engines.letGo(registered.schema);
  }
  // Whoever asks first after a change finds everything ready; what goes wrong here is met, and told, when they ask.
  const moveOn = () => void keeper?.refresh().then(() => workspaces.prepare().catch(() => {}));
  const workspaceFor: ReadingMeans["workspaceFor"] = ({ reader, signal }) => workspaces.open(reader, signal);
  const exportsKnex = connect(databaseUrl, { poolSize: EXPORT_POOL });
  const reading = { knex, readStructure, workspaceFor };
  const intake = { knex, company: registered.key, readStructure, store };
  const serving: Serving = {
    readReader: requestReader(knex, cookie),
    sendDownload: (res, reader, file) =>
      downloads.send(res, { ...file, person: `${registered.key}/${reader?.id ?? "anyone"}` }),
    isAnswerChecked,
  };
  const serve = <Operations extends Readonly<Record<string, Operation>>>(of: Operations, routes: Routes<Operations>) =>
    serveOperations(app, of, routes, serving);
  const memoryState = () => keeper?.state ?? { is: "off" as const };
  app.get("/api/openapi.json", (_req, res) => void res.json(openApiDocument()));
  serve(HEALTH, healthRoutes(knex, { memory: memoryState, engines: () => engines.upCount }));
  serve(SESSION, sessionRoutes({ knex, readStructure, signInLimit, hasOneClick, cookie }));
  serve(COMPANY, companyRoutes({ knex, registered, store, onRemoved, exportsKnex }));
  serve(PEOPLE, peopleRoutes(knex));
  serve(HOME, homeRoutes(reading));
  serve(PACKS, packRoutes({ knex, readStructure }));
  serve(FIGURES, figureRoutes({ ...reading, engines }));
  serve(TOKENS, tokenRoutes(knex, registered));
  serve(KPIS, kpiRoutes(reading));
  serve(VERSIONS, versionRoutes(reading));
  serve(EVENTS, eventRoutes(reading));
  serve(DRAFTS, draftRoutes({ ...intake, place: { databaseUrl, store }, quickly, processes }));
  serve(STRUCTURE, structureRoutes({ knex, readStructure }));
  serve(EXPORTS, exportRoutes({ readStructure, exportsKnex }));
  serve(FEEDS, feedRoutes(intake));
  serve(LOADS, loadRoutes({ knex, readStructure, store }));
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
  const makeReady = (signal: AbortSignal) => makePagesReady({ knex, workspaces, engines, months: readyMonths }, signal);
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
