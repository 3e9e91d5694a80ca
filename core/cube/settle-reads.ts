import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { bindPages, bookKey, type CellBook, type CellRead } from "./cell-book.ts";
import type { BookPage, CellQuery, CellSource } from "./cell-source.ts";

/**
 * What stands for a sum that is not read yet. Not 0, so that a first pass does not turn
 * away at a division by it; what is computed with it is thrown away.
 */
const PLACEHOLDER = 1;

/** Each further round follows from values the one before it brought, such as which members stand behind the first five. */
const MOST_ROUNDS = 8;

/**
 * Runs a computation on cells that it asks for itself: it is run once to note what it looks up,
 * the source is asked for all of that together, and it is run again, until nothing it looks up is
 * missing. What is read so follows from evaluating alone, and is never written down a second time.
 * The computation must be pure: it may run several times.
 */
export async function settleReads<T>(compute: (cells: CellBook) => T, source: CellSource): Promise<T> {
  for await (const settled of settleTogether(new Map([["", compute]]), source)) {
    if ("error" in settled) throw settled.error;
    return settled.value;
  }
  throw new Error("A computation was not settled.");
}

/** What became of one of several computations. */
export type Settled<K, T> = { readonly key: K } & ({ readonly value: T } | { readonly error: unknown });

/**
 * Settles several computations on shared reads: what all of them look up is asked for together. Each comes as soon as
 * nothing of its own is missing; one that throws does not hold up the others.
 */
export async function* settleTogether<K, T>(
  computations: ReadonlyMap<K, (cells: CellBook) => T>,
  source: CellSource,
): AsyncGenerator<Settled<K, T>> {
  const pages: BookPage[] = [];
  let left = [...computations];
  for (let round = 0; left.length > 0; round += 1) {
    if (round === MOST_ROUNDS)
      throw new Error(`A computation still looked up new cells after ${MOST_ROUNDS} rounds of reading.`);
    const missing = new MissingReads();
    const book = bindPages(pages);
    const again: typeof left = [];
    for (const [key, compute] of left) {
      let isMissing = false;
      const sum = (read: CellRead): number => {
        const found = book.find(read);
        if (found !== undefined) return found;
        isMissing = true;
        missing.note(read);
        return PLACEHOLDER;
      };
      let settled: Settled<K, T>;
      try {
        settled = { key, value: compute({ sum }) };
      } catch (error) {
        settled = { key, error };
      }
      // What was made of placeholders is thrown away.
      if (isMissing && "value" in settled) again.push([key, compute]);
      else yield settled;
    }
    left = again;
    if (left.length > 0) pages.push(...(await source.pages(missing.queries())));
  }
}

/** Look-ups gathered into queries: what is shared is read once. */
export class MissingReads {
  private readonly reads = new Map<
    string,
    {
      readonly scope: CellQuery["scope"];
      readonly isByDay: boolean;
      readonly accounts: Set<string>;
      readonly windows: Map<string, { from: Month; to: Month }>;
    }
  >();

  get isEmpty(): boolean {
    return this.reads.size === 0;
  }

  note({ scope, days, scenario, accounts, months }: CellRead): void {
    const read = getOrCreate(this.reads, bookKey(scope, days !== undefined), () => ({
      scope,
      isByDay: days !== undefined,
      accounts: new Set<string>(),
      windows: new Map<string, { from: Month; to: Month }>(),
    }));
    for (const account of accounts) read.accounts.add(account);
    const known = read.windows.get(scenario);
    read.windows.set(scenario, {
      from: Math.min(...months, known?.from ?? Infinity),
      to: Math.max(...months, known?.to ?? -Infinity),
    });
  }

  /** One query for each scope, and one by day where days are looked up. */
  queries(): CellQuery[] {
    return [...this.reads.values()].map(({ scope, isByDay, accounts, windows }) => ({
      accounts: [...accounts],
      windows: [...windows].map(([scenario, months]) => ({ scenario, ...months })),
      scope,
      ...(isByDay ? { byDay: true as const } : {}),
    }));
  }
}
