import { plainName } from "../reading/names.ts";

/** A small table of its own that rows look up in: names by numbers, classes by accounts. */
export interface LookupTable {
  /** Stands for what is in it: two tables of the same content have the same key. */
  readonly key: string;
  readonly name: string;
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** The most rows a table may have that is looked up in. */
export const MOST_LOOKUP_ROWS = 50_000;

/** Rows of a table by what stands in one of its columns. */
export interface LookupIndex {
  /** The row for a text; `undefined` where there is none. Case, spaces and zeros in front of a number do not count. */
  find(text: string): readonly string[] | undefined;
  /** A text that stands for several rows which say different things; `null` where each stands for one. */
  readonly ambiguous: string | null;
}

const indexes = new WeakMap<LookupTable, Map<string, LookupIndex>>();

/** The rows of a table by one column, of which the `taken` ones are wanted; made once. */
export function indexTable(table: LookupTable, by: string, taken: readonly string[]): LookupIndex {
  const name = JSON.stringify([by, taken]);
  const known = indexes.get(table) ?? new Map<string, LookupIndex>();
  indexes.set(table, known);
  const index = known.get(name) ?? makeIndex(table, table.columns.indexOf(by), placesIn(table, taken));
  known.set(name, index);
  return index;
}

function makeIndex(table: LookupTable, place: number, wanted: readonly number[]): LookupIndex {
  const exact = new Map<string, readonly string[]>();
  const bare = new Map<string, readonly string[]>();
  let ambiguous: string | null = null;
  const said = (row: readonly string[]) => JSON.stringify(wanted.map((i) => (row[i] ?? "").trim()));
  for (const row of table.rows) {
    const text = plainName(row[place] ?? "");
    if (text === "") continue;
    const before = exact.get(text);
    if (before && said(before) !== said(row)) ambiguous ??= (row[place] ?? "").trim();
    if (!before) exact.set(text, row);
    if (!bare.has(withoutZeros(text))) bare.set(withoutZeros(text), row);
  }
  return {
    ambiguous,
    find: (text) => {
      const plain = plainName(text);
      return exact.get(plain) ?? (/^\d+$/.test(plain) ? bare.get(withoutZeros(plain)) : undefined);
    },
  };
}

/** "0042" and "42" are the same number where one of two programs takes the zeros off. */
function withoutZeros(text: string): string {
  return /^\d+$/.test(text) ? text.replace(/^0+(?=\d)/, "") : text;
}

function placesIn(table: LookupTable, columns: readonly string[]): number[] {
  return columns.map((name) => table.columns.indexOf(name));
}
