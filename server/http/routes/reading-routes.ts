import type { Response } from "express";
import type { Knex } from "knex";
import type { Structure } from "#server/db/structure.ts";
import type { Workspace } from "#server/facts/workspace.ts";

/** What routes that answer with figures stand on. */
export interface ReadingRoutes {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
  /** Opens a workspace for whoever asked; what goes on in it is given up when they are gone. */
  readonly workspaceFor: (res: Response) => Promise<Workspace>;
}
