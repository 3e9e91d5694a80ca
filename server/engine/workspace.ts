import type { Knex } from "knex";
import { confineSource } from "#server/access/confine.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";
import { sqlFactSource, type FactSource } from "./fact-source.ts";

/** What a use case computes with, on behalf of one reader: facts come confined to what the reader may see. */
export interface Workspace {
  readonly structure: Structure;
  readonly source: FactSource;
  readonly reader: Reader;
}

/** Opens a workspace for a reader. */
export function openWorkspace(knex: Knex, structure: Structure, reader: Reader): Workspace {
  return {
    structure,
    reader,
    source: confineSource(sqlFactSource(knex, structure), structure.dimensions, reader.scope),
  };
}
