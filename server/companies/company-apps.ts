import { rm } from "node:fs/promises";
import { join } from "node:path";
import type { Request, RequestHandler } from "express";
import type { Knex } from "knex";
import { COMPANY_COOKIE, spaceOfToken } from "#server/access/session-cookie.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { createCompanyApp, type CompanyApp, type CompanyAppOptions } from "#server/http/company-app.ts";
import { dropCompany } from "./create-company.ts";
import { findSpace, openRegistry, SAMPLE_SPACE, urlOfSpace, type Space } from "./registry.ts";

export interface CompanyAppsOptions extends Omit<CompanyAppOptions, "space" | "onRemoved"> {
  /** Whether the sample company is offered; it is, where nothing is said. */
  readonly hasSample?: boolean;
}

/** What the first application answers where the sample is not offered: that the server is there, and what it can be asked. */
const OPEN_TO_ALL = new Set(["/api/health", "/api/openapi.json"]);

/** So many own companies are kept open at once; whoever comes to another one waits a moment while it is opened. */
const MOST_OPEN = 8;
/** Connections of each: all of them together fit into what a database allows, beside the sample's and the readers'. */
const OWN_POOL = 4;
/** What is known of the registry holds so long: another process may have removed a company. */
const KNOWN_MS = 2000;

interface OpenCompany {
  readonly app: CompanyApp;
  readonly knex: Knex;
  usedAt: number;
  knownAt: number;
}

/** The companies of an installation, each with an application of its own on its own schema; opened when they are asked for. */
export class CompanyApps {
  private readonly first: CompanyApp;
  private readonly open = new Map<string, Promise<OpenCompany>>();
  private registry: Promise<void> | undefined;

  constructor(private readonly options: CompanyAppsOptions) {
    this.first = createCompanyApp(options);
  }

  /** Hands a request to the company that its browser has entered, or its token is of. */
  readonly handle: RequestHandler = async (req, res, next) => {
    const app = await this.appFor(keyOf(req));
    if (app === this.first && this.options.hasSample === false && !OPEN_TO_ALL.has(req.path)) {
      if (req.path !== "/api/sample-people")
        throw new ProblemError("not-signed-in", "Choose a company and sign in, or start your own.");
      res.json([]);
      return;
    }
    app.routes(req, res, next);
  };

  /** Makes the registry where it is missing. */
  ready(): Promise<void> {
    return (this.registry ??= openRegistry(this.options.knex).catch((error: unknown) => {
      // The database may be away for the moment: the next one who asks tries again.
      this.registry = undefined;
      throw error;
    }));
  }

  /** Ends whatever goes on beside requests. */
  async close(): Promise<void> {
    await Promise.all([this.first.close(), ...[...this.open.keys()].map((key) => this.leave(key))]);
  }

  private async appFor(key: string): Promise<CompanyApp> {
    if (key === SAMPLE_SPACE.key) return this.first;
    const company = await this.companyOf(key);
    return company?.app ?? this.first;
  }

  private async companyOf(key: string): Promise<OpenCompany | undefined> {
    const known = await this.open.get(key)?.catch(() => undefined);
    if (known && Date.now() - known.knownAt < KNOWN_MS) {
      known.usedAt = Date.now();
      return known;
    }
    await this.ready();
    const space = await findSpace(this.options.knex, key);
    if (!space) {
      await this.leave(key);
      return undefined;
    }
    let opening = this.open.get(key);
    if (!opening) {
      opening = this.enter(space);
      this.open.set(key, opening);
      opening.catch(() => this.open.delete(key));
      await this.leaveOldest(key);
    }
    const company = await opening;
    company.usedAt = company.knownAt = Date.now();
    return company;
  }

  private async enter(space: Space): Promise<OpenCompany> {
    const { databaseUrl, store, memoryBudget = 0 } = this.options;
    const url = urlOfSpace(databaseUrl, space.schema);
    const knex = connect(url, { poolSize: OWN_POOL });
    try {
      // A company may have been made by an older version of the product.
      await migrate(knex);
    } catch (error) {
      await knex.destroy();
      throw error;
    }
    const own = { ...store, folder: join(store.folder, space.schema) };
    const app = createCompanyApp({
      ...this.options,
      knex,
      replica: null,
      databaseUrl: url,
      store: own,
      space,
      memoryBudget: memoryBudget / MOST_OPEN,
      onRemoved: async () => {
        await dropCompany(this.options.knex, space);
        await rm(own.folder, { recursive: true, force: true });
        // Whoever asked is still being answered by it.
        setImmediate(() => void this.leave(space.key));
      },
    });
    return { app, knex, usedAt: Date.now(), knownAt: Date.now() };
  }

  private async leave(key: string): Promise<void> {
    const opening = this.open.get(key);
    if (!opening) return;
    this.open.delete(key);
    const company = await opening.catch(() => undefined);
    if (!company) return;
    await company.app.close();
    await company.knex.destroy();
  }

  private async leaveOldest(but: string): Promise<void> {
    if (this.open.size <= MOST_OPEN) return;
    const others = [...this.open].filter(([key]) => key !== but);
    const used = await Promise.all(
      others.map(async ([key, opening]) => ({ key, at: (await opening.catch(() => undefined))?.usedAt ?? 0 })),
    );
    await this.leave(used.reduce((a, b) => (b.at < a.at ? b : a)).key);
  }
}

function keyOf(req: Request): string {
  const bearer = /^Bearer (.+)$/.exec(req.get("authorization") ?? "")?.[1];
  if (bearer !== undefined) return spaceOfToken(bearer);
  const entered: unknown = (req.cookies as Record<string, unknown>)[COMPANY_COOKIE];
  return typeof entered === "string" && entered !== "" ? entered : SAMPLE_SPACE.key;
}
