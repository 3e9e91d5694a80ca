import type { Knex } from "knex";
import type { CellBook } from "#core/cube/cell-book.ts";
import { settleReads, settleTogether, type Settled } from "#core/cube/settle-reads.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { resolveFrame, type AskedFrame, type FrameText } from "#core/frame/resolve-frame.ts";
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

/**
 * Opens workspaces: on memory where it holds the facts in the state that the structure speaks of, else on SQL, whose
 * sums are given up when whoever asked is gone.
 */
export type OpenWorkspace = (reader: Reader, gone?: AbortSignal) => Promise<Workspace>;

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
  return async (reader, gone) => {
    const structure = await readStructure();
    const source: FactSource = { ...sqlFactSource(knex, structure, gone), book: bookFor(structure) };
    return { structure, reader, source: confineSource(source, structure.dimensions, reader.scope) };
  };
}

/** A question in a frame as an address writes it. */
export interface Question<T> {
  readonly query: FrameText;
  /** Of the page it stands on, until the reader chooses another. */
  readonly pageScope?: Scope;
  readonly compute: (question: PanelQuestion) => T;
}

/** Answers a question: the cells that it looks up are read and no others. */
export async function ask<T>(
  workspace: Workspace,
  query: FrameText,
  compute: (question: PanelQuestion) => T,
  pageScope: Scope = {},
): Promise<T> {
  for await (const settled of askTogether(workspace, new Map([["", { query, compute, pageScope }]]))) {
    if ("error" in settled) throw settled.error;
    return settled.value;
  }
  throw new Error("A question was not answered.");
}

/** Answers several questions as one: what they look up is read together. Each comes when it is ready. */
export async function* askTogether<K, T>(
  { structure, source, reader }: Workspace,
  questions: ReadonlyMap<K, Question<T>>,
): AsyncGenerator<Settled<K, T>> {
  const computations = new Map(
    [...questions].map(([key, { query, pageScope = {}, compute }]) => {
      let asked: AskedFrame | undefined;
      return [
        key,
        (cells: CellBook) => {
          asked ??= resolveFrame(query, structure, reader.scope, pageScope);
          return compute({ company: structure, access: reader.scope, asked, cells });
        },
      ] as const;
    }),
  );
  if (source.book) yield* computeAll(computations, source.book);
  else yield* settleTogether(computations, source);
}

/** Everything is at hand: one after the other, letting other requests through in between. */
async function* computeAll<K, T>(
  computations: ReadonlyMap<K, (cells: CellBook) => T>,
  book: CellBook,
): AsyncGenerator<Settled<K, T>> {
  let isFirst = true;
  for (const [key, compute] of computations) {
    if (!isFirst) await new Promise(setImmediate);
    isFirst = false;
    let settled: Settled<K, T>;
    try {
      settled = { key, value: compute(book) };
    } catch (error) {
      settled = { key, error };
    }
    yield settled;
  }
}

/** Computes something of the whole company, whoever asks, such as what a load moved. */
export function askAll<T>(knex: Knex, structure: Structure, compute: (cells: CellBook) => T): Promise<T> {
  return settleReads(compute, sqlFactSource(knex, structure));
}
