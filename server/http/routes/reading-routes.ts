import type { Knex } from "knex";
import type { Structure } from "#server/db/structure.ts";
import type { OpenWorkspace } from "#server/facts/workspace.ts";

/** What routes that answer with figures stand on. */
export interface ReadingRoutes {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
  readonly openWorkspace: OpenWorkspace;
}
