import type { Knex } from "knex";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";
import type { Workspace } from "#server/facts/workspace.ts";

/** What use cases that answer with figures stand on. */
export interface ReadingMeans {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
  /** Opens a workspace for whoever asked; what goes on in it is given up when they are gone. */
  readonly workspaceFor: (call: { readonly reader: Reader; readonly signal: AbortSignal }) => Promise<Workspace>;
}
