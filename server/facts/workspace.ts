import type { Knex } from "knex";
import type { CellBook } from "#core/cube/cell-book.ts";
import { settleReads } from "#core/cube/settle-reads.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { resolveFrame, type FrameText } from "#core/frame/resolve-frame.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";
import { confineSource } from "./confine-source.ts";
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

/** Answers a question in a frame as an address writes it: the cells that it looks up are read and no others. */
export function ask<T>(
  { structure, source, reader }: Workspace,
  query: FrameText,
  compute: (question: PanelQuestion) => T,
  pageScope: Scope = {},
): Promise<T> {
  const asked = resolveFrame(query, structure, reader.scope, pageScope);
  return settleReads((cells) => compute({ company: structure, access: reader.scope, asked, cells }), source);
}

/** Computes something of the whole company, whoever asks, such as what a load moved. */
export function askAll<T>(knex: Knex, structure: Structure, compute: (cells: CellBook) => T): Promise<T> {
  return settleReads(compute, sqlFactSource(knex, structure));
}
