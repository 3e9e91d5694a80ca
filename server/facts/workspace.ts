import type { Knex } from "knex";
import type { CellBook } from "#core/cube/cell-book.ts";
import type { CellSource } from "#core/cube/cell-source.ts";
import { settleReads, settleTogether, type Settled } from "#core/cube/settle-reads.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { inWriting, type Writing } from "#core/formats/writing.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import type { FrameQuery } from "#core/frame/schema.ts";
import { resolveFrame, type AskedFrame } from "#core/frame/resolve-frame.ts";
import type { PanelQuestion } from "#core/panels/panel-question.ts";
import type { Reader } from "#server/access/reader.ts";
import type { ReadDatabase } from "#server/db/read-database.ts";
import type { Structure } from "#server/db/structure.ts";
import { confineSource } from "./confine-source.ts";
import type { CellKeeper, KeptFacts } from "./memory/cell-keeper.ts";
import { bookOn } from "./memory/memory-book.ts";
import { sqlFactSource, type FactSource } from "./fact-source.ts";

/** What questions are answered with: a structure, its cells confined to what a reader may see, and their scope. */
export interface AskedPlace {
  readonly structure: Structure;
  readonly source: CellSource & { readonly book?: CellBook | undefined };
  readonly reader: Pick<Reader, "scope" | "numbers" | "dates">;
}

/** What a use case computes with, on behalf of one reader: facts come confined to what the reader may see. */
export interface Workspace extends AskedPlace {
  readonly source: FactSource;
  readonly reader: Reader;
  /** The facts in memory that its cells come from; none where they come from the database. */
  readonly memory: FactsAtHand | undefined;
  /** Tells when whoever asked is gone. */
  readonly gone: AbortSignal | undefined;
}

/** Facts in memory with the structure of the same state. */
export interface FactsAtHand {
  readonly structure: Structure;
  readonly kept: KeptFacts;
  readonly book: CellBook;
}

/**
 * Opens workspaces: on memory where it holds the facts in the state that the structure speaks of, else on SQL, whose
 * sums are given up when whoever asked is gone.
 */
export class Workspaces {
  /** What was looked up once is at hand for the next reader. */
  private opened: FactsAtHand | undefined;
  readonly keeper: CellKeeper | null;

  constructor(
    private readonly options: {
      readonly database: Pick<ReadDatabase, "at">;
      readonly readStructure: () => Promise<Structure>;
      readonly keeper: CellKeeper | null;
      /** Hears of each state of the facts that is at hand from now on. */
      readonly onOpened?: (memory: FactsAtHand) => void;
    },
  ) {
    this.keeper = options.keeper;
  }

  async open(reader: Reader, gone?: AbortSignal): Promise<Workspace> {
    const structure = await this.options.readStructure();
    const memory = await this.memoryOf(structure);
    const knex = await this.options.database.at(structure.version);
    const source: FactSource = { ...sqlFactSource(knex, structure, gone), book: memory?.book };
    return { structure, reader, memory, gone, source: confineSource(source, structure.dimensions, reader.scope) };
  }

  /** Has the present facts at hand before anybody asks. */
  async prepare(): Promise<void> {
    await this.memoryOf(await this.options.readStructure());
  }

  /** Holds on to no facts: others have their place in memory. */
  letGo(): void {
    this.opened = undefined;
  }

  private async memoryOf(structure: Structure): Promise<FactsAtHand | undefined> {
    const kept = await this.keeper?.reach(structure.facts);
    if (!kept) return undefined;
    if (this.opened?.structure !== structure || this.opened.kept !== kept) {
      this.opened = { structure, kept, book: bookOn(this.opened, structure, kept) };
      this.options.onOpened?.(this.opened);
    }
    return this.opened;
  }
}

/** A question in a frame as an address writes it. */
export interface Question<T> {
  readonly query: FrameQuery;
  /** Of the page it stands on, until the reader chooses another. */
  readonly pageScope?: Scope;
  readonly compute: (question: PanelQuestion) => T;
}

/** Answers a question: the cells that it looks up are read and no others. */
export async function ask<T>(
  workspace: AskedPlace,
  query: FrameQuery,
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
  { structure, source, reader }: AskedPlace,
  questions: ReadonlyMap<K, Question<T>>,
): AsyncGenerator<Settled<K, T>> {
  // Panels of a page are asked in one frame, which is read once.
  const frames = new Map<string, AskedFrame>();
  const computations = new Map(
    [...questions].map(([key, { query, pageScope = {}, compute }]) => [
      key,
      (cells: CellBook) => {
        const asked = getOrCreate(frames, JSON.stringify([query, pageScope]), () =>
          resolveFrame(query, structure, reader.scope, pageScope),
        );
        return inWriting(writingFor(structure, reader), () =>
          compute({ company: structure, access: reader.scope, asked, cells }),
        );
      },
    ]),
  );
  if (source.book) yield* computeAll(computations, source.book);
  else yield* settleTogether(computations, source);
}

/** Everything is at hand: one after the other, letting other requests through in between. */
async function* computeAll<K, T>(
  computations: ReadonlyMap<K, (cells: CellBook) => T>,
  book: CellBook,
): AsyncGenerator<Settled<K, T>> {
  for (const [key, compute] of computations) {
    await new Promise(setImmediate);
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
  return settleReads((cells) => inWriting(structure, () => compute(cells)), sqlFactSource(knex, structure));
}

/** How figures are written for a reader. */
export function writingFor(structure: Writing, { numbers, dates }: Pick<Reader, "numbers" | "dates">): Writing {
  return {
    currency: structure.currency,
    numbers: numbers ?? structure.numbers,
    dates: dates ?? structure.dates,
  };
}
