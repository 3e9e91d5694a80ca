import type { Knex } from "knex";
import type { CellBook } from "#core/cube/cell-book.ts";
import { settleReads } from "#core/cube/settle-reads.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { resolveFrame, type FrameText } from "#core/frame/resolve-frame.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";
import { confineSource } from "./confine-source.ts";
import type { CellKeeper, KeptFacts } from "./memory/cell-keeper.ts";
import { bookOf } from "./memory/memory-book.ts";
import { sqlFactSource, type FactSource } from "./fact-source.ts";

/** What a use case computes with, on behalf of one reader: facts come confined to what the reader may see. */
export interface Workspace {
  readonly structure: Structure;
  readonly source: FactSource;
  readonly reader: Reader;
}

/** Opens workspaces: on memory where it holds the facts in the state that the structure speaks of, else on SQL. */
export type OpenWorkspace = (reader: Reader) => Promise<Workspace>;

export function workspaceOpener({
  knex,
  readStructure,
  keeper,
}: {
  knex: Knex;
  readStructure: () => Promise<Structure>;
  keeper: CellKeeper | null;
}): OpenWorkspace {
  // What was looked up once is at hand for the next reader.
  let opened: { structure: Structure; kept: KeptFacts; book: CellBook } | undefined;
  const bookFor = (structure: Structure): CellBook | undefined => {
    const kept = keeper?.at(structure.facts);
    if (!kept) return undefined;
    if (opened?.structure !== structure || opened.kept !== kept)
      opened = { structure, kept, book: bookOf(structure, kept) };
    return opened.book;
  };
  return async (reader) => {
    const structure = await readStructure();
    const source: FactSource = { ...sqlFactSource(knex, structure), book: bookFor(structure) };
    return { structure, reader, source: confineSource(source, structure.dimensions, reader.scope) };
  };
}

/** Answers a question in a frame as an address writes it: the cells that it looks up are read and no others. */
export async function ask<T>(
  { structure, source, reader }: Workspace,
  query: FrameText,
  compute: (question: PanelQuestion) => T,
  pageScope: Scope = {},
): Promise<T> {
  const asked = resolveFrame(query, structure, reader.scope, pageScope);
  const answer = (cells: CellBook) => compute({ company: structure, access: reader.scope, asked, cells });
  return source.book ? answer(source.book) : settleReads(answer, source);
}

/** Computes something of the whole company, whoever asks, such as what a load moved. */
export function askAll<T>(knex: Knex, structure: Structure, compute: (cells: CellBook) => T): Promise<T> {
  return settleReads(compute, sqlFactSource(knex, structure));
}
