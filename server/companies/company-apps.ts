import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import type { Request, RequestHandler } from "express";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { COMPANY_COOKIE, spaceOfToken } from "#server/access/session-cookie.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { connect } from "#server/db/connect.ts";
import { VERSION_CHANNEL } from "#server/db/data-version.ts";
import { listen } from "#server/db/listen.ts";
import { migrate } from "#server/db/migrate.ts";
import type { PackedFit } from "#server/engine/fit-store.ts";
import { keepFits } from "#server/engine/kept-fits.ts";
import { EnginePool } from "#server/engine/engine-pool.ts";
import { Downloads, sweepDownloads } from "#server/export/downloads.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { workOnPull } from "#server/feeds/pull-feed.ts";
import { planTurns, takeTurn } from "#server/feeds/schedule.ts";
import { createCompanyApp, type CompanyApp, type CompanyPlace, type SharedMeans } from "#server/http/company-app.ts";
import type { FileStore } from "#server/intake/file-store.ts";
import { openProcesses } from "#server/intake/jobs/open-processes.ts";
import { workOnJob } from "#server/intake/jobs/jobs.ts";
import { enqueue, WORK_CHANNEL, type ClaimedWork } from "#server/work/work-queue.ts";
import { WorkRunner, type TaskKind } from "#server/work/work-runner.ts";
import { createCompany, dropCompany, resumeRemovals, sweepCompanies, type CompaniesPlace } from "./create-company.ts";
import {
  findCompany,
  isUndefinedTable,
  listCompanies,
  openRegistry,
  SAMPLE_COMPANY,
  urlOfCompany,
  type RegisteredCompany,
} from "./registry.ts";
import type { CompanyStart } from "#contract/companies.ts";

export interface CompanyAppsOptions {
  readonly knex: Knex;
  /** A replica of the same database, for reading the sample's facts. */
  readonly replica?: Knex | null;
  readonly logger: Logger;
  readonly databaseUrl: string;
  readonly store: FileStore;
  readonly signInLimit?: number;
  /** Of how many months reviews are made ready before anybody asks; none where nothing is said. */
  readonly readyMonths?: number;
  /** Whether every answer is held against its schema, as tests do. */
  readonly isAnswerChecked?: boolean;
  /** Bytes in which facts of all companies may be kept in memory; 0 leaves all of them in the database. */
  readonly memoryBudget?: number;
  /** Threads that answer panels from memory; with none the server's own thread does. */
  readonly engineCount?: number;
  /** Files that are read and posted at once. */
  readonly workerCount?: number;
  /** Whether the sample company is offered; it is, where nothing is said. */
  readonly hasSample?: boolean;
  readonly hasOneClick: (req: Request) => boolean;
}

/** What the first application answers where the sample is not offered: that the server is there, and what it can be asked. */
const OPEN_TO_ALL = new Set(["/api/health", "/api/openapi.json"]);

/** Own companies that nobody uses at the moment are closed when there are more open ones, and after so long in any case. */
const MOST_OPEN = 16;
const IDLE_MS = 10 * 60_000;
const LOOK_MS = 30_000;
const JUST_USED_MS = 500;
/** Connections of each: all of them together fit into what a database allows, beside the sample's and the readers'. */
const OWN_POOL = 5;
/** What is known of the registry holds so long: another process may have removed a company. */
const KNOWN_MS = 2000;
/** Files whose first rows somebody waits for, and feeds that are asked, at once. */
const QUICK = 2;
const FEEDS = 4;
const DEFAULT_WORKERS = 2;
/** After a change others often follow: pages are made ready so long after the first of them. */
const READY_MS = 3000;
/** What follows from loads, one after the other. */
const UPKEEP = 1;

interface OpenCompany {
  readonly place: CompanyPlace;
  readonly app: CompanyApp;
  usedAt: number;
  knownAt: number;
  /** Requests and work under way: it is not closed under them. */
  busy: number;
}

/**
 * The companies of an installation, each with an application of its own on its own schema: opened when they are asked for
 * or have work to do, and closed when nobody uses them. All share one budget of memory and threads, and one queue of work.
 */
export class CompanyApps {
  private readonly first: OpenCompany;
  private readonly open = new Map<string, Promise<OpenCompany>>();
  private readonly means: SharedMeans & { readonly engines: EnginePool };
  private readonly runner: WorkRunner;
  private readonly listening: { stop(): Promise<void> };
  private readonly look: NodeJS.Timeout;
  private registry: Promise<void> | undefined;
  private isClosed = false;
  private readonly begun: Promise<void>;

  constructor(private readonly options: CompanyAppsOptions) {
    const {
      knex,
      replica = null,
      databaseUrl,
      store,
      logger,
      memoryBudget = 0,
      workerCount = DEFAULT_WORKERS,
    } = options;
    this.means = {
      logger,
      signInLimit: options.signInLimit ?? 20,
      isAnswerChecked: options.isAnswerChecked ?? false,
      readyMonths: options.readyMonths ?? 0,
      memory: memoryBudget > 0 ? new MemoryBudget(memoryBudget) : null,
      engines: new EnginePool(memoryBudget > 0 ? (options.engineCount ?? 0) : 0, {
        onLost: (error) => logger.error({ err: error }, "an engine ended; another one takes its place"),
        onFits: (schema, fits) => void this.keepFits(schema, fits),
      }),
      quickly: openProcesses(store.limits, QUICK),
      processes: openProcesses(store.limits, workerCount + UPKEEP),
      downloads: new Downloads(),
      hasOneClick: options.hasOneClick,
    };
    const registered: RegisteredCompany = { ...SAMPLE_COMPANY, name: "" };
    const place = { registered, knex, replica, databaseUrl, store, onRemoved: () => Promise.resolve() };
    this.first = { place, app: createCompanyApp(place, this.means), usedAt: 0, knownAt: 0, busy: 0 };
    this.runner = new WorkRunner({
      knex,
      logger,
      lanes: { files: workerCount, feeds: FEEDS, upkeep: UPKEEP, ready: 1 },
      tasks: this.tasks(),
    });
    this.listening = listen(databaseUrl, {
      channels: { [VERSION_CHANNEL]: (schema) => this.moveOn(schema), [WORK_CHANNEL]: () => this.hearOfWork() },
      onConnected: () => {
        this.moveOn();
        this.hearOfWork();
      },
    });
    this.look = setInterval(() => void this.lookAround(), LOOK_MS);
    this.look.unref();
    this.begun = this.begin();
  }

  /** Hands a request to the company that its browser has entered, or its token is of. */
  readonly handle: RequestHandler = async (req, res, next) => {
    const company = (await this.companyOf(keyOf(req))) ?? this.first;
    if (company === this.first && this.options.hasSample === false && !OPEN_TO_ALL.has(req.path)) {
      if (req.path !== "/api/sample-people")
        throw new ProblemError("not-signed-in", "Choose a company and sign in, or start your own company.");
      res.json([]);
      return;
    }
    company.busy += 1;
    res.once("close", () => {
      company.busy -= 1;
      company.usedAt = Date.now();
    });
    company.app.routes(req, res, (error?: unknown) => {
      if (isUndefinedTable(error)) void this.refuseGone(company, error).then(next);
      else next(error);
    });
  };

  /** Makes the registry where it is missing. */
  ready(): Promise<void> {
    return (this.registry ??= openRegistry(this.options.knex).catch((error: unknown) => {
      // The database may be away for the moment: the next one who asks tries again.
      this.registry = undefined;
      throw error;
    }));
  }

  /** Starts a company. */
  async start(company: CompanyStart): Promise<RegisteredCompany> {
    await this.ready();
    return createCompany(this.place, company);
  }

  /** Ends whatever goes on beside requests. */
  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.look);
    await this.begun;
    await this.listening.stop();
    await this.runner.close();
    await Promise.all([this.first.app.close(), ...[...this.open.keys()].map((key) => this.leave(key))]);
    const { engines, quickly, processes } = this.means;
    await Promise.all([engines.close(), quickly.close(), processes.close()]);
  }

  private get place(): CompaniesPlace {
    const { knex, databaseUrl, store } = this.options;
    return { knex, databaseUrl, folder: store.folder };
  }

  /** Brings to an end what servers before began, plans what is scheduled, and begins to work; waits for the database. */
  private async begin(): Promise<void> {
    const { knex, logger, hasSample = true } = this.options;
    while (!this.isClosed) {
      try {
        await this.ready();
        await Promise.all([sweepCompanies(this.place), sweepDownloads()]);
        for (const registered of await listCompanies(knex, { hasSample })) await planTurns(knex, registered);
        this.runner.start();
        return;
      } catch (error) {
        logger.debug({ err: error }, "companies wait for the database");
        await wait(500, undefined, { ref: false });
      }
    }
  }

  private tasks(): Readonly<Record<string, TaskKind>> {
    const { processes, quickly, logger } = this.means;
    const within = (run: (company: OpenCompany, work: ClaimedWork, signal: AbortSignal) => Promise<void>) => {
      return (work: ClaimedWork, signal: AbortSignal) => this.within(work.company, (own) => run(own, work, signal));
    };
    const job = within(({ place: { knex, databaseUrl, store, registered } }, work, signal) =>
      workOnJob({ knex, company: registered.key, place: { databaseUrl, store } }, { processes, logger }, work, signal),
    );
    const feedsOf = ({ place: { knex, store, registered }, app: { readStructure } }: OpenCompany) => ({
      knex,
      company: registered.key,
      readStructure,
      store,
    });
    return {
      check: { lane: "files", run: job },
      post: { lane: "files", run: job },
      "follow-up": {
        lane: "upkeep",
        run: within(({ place: { databaseUrl, store } }, { subject }, signal) =>
          processes
            .run({ kind: "follow-up", databaseUrl, store, loadId: Number(subject["load"]) }, { signal })
            .then(() => undefined),
        ),
        onGivenUp: ({ company, subject }) =>
          this.within(company, async ({ place: { knex } }) => {
            await knex("load")
              .where({ id: Number(subject["load"]) })
              .update({ followed_up: true, stood_before: null });
          }),
      },
      ready: {
        lane: "ready",
        run: within(({ app }, _work, signal) => app.makeReady(signal)),
      },
      pull: {
        lane: "feeds",
        run: within((own, work, signal) => workOnPull({ ...feedsOf(own), processes: quickly }, work, signal)),
      },
      turn: {
        lane: "feeds",
        run: within(async (own, { subject }) => {
          const refused = await takeTurn(feedsOf(own), String(subject["feed"]));
          if (refused) logger.warn({ err: refused, feed: subject["feed"] }, "scheduled pull");
        }),
      },
    };
  }

  /** Does something in a company, which is not closed meanwhile; nothing where there is none any more. */
  private async within(key: string, run: (company: OpenCompany) => Promise<void>): Promise<void> {
    const company = await this.companyOf(key);
    if (!company) return;
    company.busy += 1;
    try {
      await run(company);
    } finally {
      company.busy -= 1;
      company.usedAt = Date.now();
    }
  }

  private hearOfWork(): void {
    void this.runner.beat();
    this.runner.wake();
  }

  /** What is kept of a company's data moves on, or of all of them; what of its pages takes long is made ready soon after. */
  private moveOn(schema?: string): void {
    void this.each(schema, async ({ place: { registered }, app }) => {
      app.moveOn();
      if (this.means.engines.isIdle) return;
      await this.ready();
      await enqueue(this.options.knex, {
        company: registered.key,
        task: "ready",
        subject: { kind: "ready" },
        once: "ready",
        alone: "ready",
        runAfter: new Date(Date.now() + READY_MS),
        isNotPutOff: true,
      });
    });
  }

  private async keepFits(schema: string, fits: readonly PackedFit[]): Promise<void> {
    // What is lost here is made again.
    await this.each(schema, ({ place: { knex } }) => keepFits(knex, fits));
  }

  /** Does something with each open company, or with the one of a schema; what goes wrong is met by whoever asks next. */
  private async each(schema: string | undefined, run: (company: OpenCompany) => unknown): Promise<void> {
    const all = [
      this.first,
      ...(await Promise.allSettled(this.open.values())).flatMap((own) =>
        own.status === "fulfilled" ? [own.value] : [],
      ),
    ];
    for (const company of all)
      if (schema === undefined || company.place.registered.schema === schema)
        await Promise.resolve(run(company)).catch(() => undefined);
  }

  private async companyOf(key: string): Promise<OpenCompany | undefined> {
    if (key === SAMPLE_COMPANY.key) return this.first;
    const known = await this.open.get(key)?.catch(() => undefined);
    if (known && Date.now() - known.knownAt < KNOWN_MS) {
      known.usedAt = Date.now();
      return known;
    }
    await this.ready();
    const registered = await findCompany(this.options.knex, key);
    // One of the same name may have been started since.
    if (known && known.place.registered.schema !== registered?.schema) await this.leave(key);
    if (!registered) return undefined;
    let opening = this.open.get(key);
    if (!opening) {
      opening = this.enter(registered);
      this.open.set(key, opening);
      opening.then(
        () => this.leaveIdle(),
        () => this.open.delete(key),
      );
    }
    try {
      const company = await opening;
      company.usedAt = company.knownAt = Date.now();
      return company;
    } catch (error) {
      if (await this.isRemoved(registered)) return undefined;
      throw error;
    }
  }

  /** Whether a company is no longer there, or not the same any more. */
  private async isRemoved({ key, schema }: RegisteredCompany): Promise<boolean> {
    return (await findCompany(this.options.knex, key))?.schema !== schema;
  }

  /** What to say where a table was not found: that the company was removed while it was asked, or what went wrong. */
  private async refuseGone({ place: { registered } }: OpenCompany, error: unknown): Promise<unknown> {
    if (registered.key === SAMPLE_COMPANY.key || !(await this.isRemoved(registered).catch(() => false))) return error;
    await this.leave(registered.key);
    return new ProblemError(
      "not-signed-in",
      "This company was removed. Choose another one, or start your own company.",
      {
        cause: error,
      },
    );
  }

  private async enter(registered: RegisteredCompany): Promise<OpenCompany> {
    const { databaseUrl, store } = this.options;
    const url = urlOfCompany(databaseUrl, registered.schema);
    // A company may have been made by an older version of the product.
    const migrating = connect(url, { poolSize: 1 });
    await migrate(migrating).finally(() => migrating.destroy());
    const knex = connect(url, { poolSize: OWN_POOL, patience: "requests" });
    const place: CompanyPlace = {
      registered,
      knex,
      replica: null,
      databaseUrl: url,
      store: { ...store, folder: join(store.folder, registered.schema) },
      onRemoved: async () => {
        await dropCompany(this.place, registered);
        // Whoever asked is still being answered by it.
        setImmediate(() => void this.leave(registered.key));
      },
    };
    const app = createCompanyApp(place, this.means);
    return { place, app, usedAt: Date.now(), knownAt: Date.now(), busy: 0 };
  }

  private async leave(key: string): Promise<void> {
    const opening = this.open.get(key);
    if (!opening) return;
    this.open.delete(key);
    try {
      const { app, place } = await opening;
      await app.close();
      await place.knex.destroy();
    } catch (error) {
      // It never opened, or its database went away while it was closed: there is nothing left to hold on to.
      this.options.logger.debug({ err: error, company: key }, "a company was left");
    }
  }

  /** Closes what nobody uses, and goes on with removals that were broken off. */
  private async lookAround(): Promise<void> {
    await this.leaveIdle();
    await resumeRemovals(this.place).catch((error: unknown) => {
      this.options.logger.debug({ err: error }, "what is left of companies is cleared away later");
    });
  }

  /** Closes own companies that nobody uses: those idle for long, and the longest idle where there are many. */
  private async leaveIdle(): Promise<void> {
    const all = await Promise.all(
      [...this.open].map(async ([key, opening]) => ({ key, company: await opening.catch(() => undefined) })),
    );
    const idle = all
      .flatMap(({ key, company }) => (company?.busy === 0 ? [{ key, usedAt: company.usedAt }] : []))
      .sort((a, b) => a.usedAt - b.usedAt);
    const tooMany = Math.max(0, this.open.size - MOST_OPEN);
    const now = Date.now();
    for (const [place, { key, usedAt }] of idle.entries())
      if (place < tooMany ? now - usedAt > JUST_USED_MS : now - usedAt > IDLE_MS) await this.leave(key);
  }
}

function keyOf(req: Request): string {
  const bearer = /^Bearer (.+)$/.exec(req.get("authorization") ?? "")?.[1];
  if (bearer !== undefined) return spaceOfToken(bearer);
  const entered: unknown = (req.cookies as Record<string, unknown>)[COMPANY_COOKIE];
  return typeof entered === "string" && entered !== "" ? entered : SAMPLE_COMPANY.key;
}
