import type { CellBook } from "#core/cube/cell-book.ts";
import type { Dimension } from "#core/dimensions/dimension.ts";
import { intersectScopes, type Scope } from "#core/dimensions/scope.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import type { FactSource } from "./fact-source.ts";

/**
 * A source that lets through only what lies in the reader's scope. This is the one
 * place where row access is enforced: every figure and every source line passes here.
 */
export function confineSource(source: FactSource, dimensions: readonly Dimension[], own: Scope): FactSource {
  const confine = <Q extends { readonly scope: Scope }>(query: Q): Q => ({
    ...query,
    scope: intersectScopes(dimensions, query.scope, own),
  });
  return {
    book: source.book && confineBook(source.book, dimensions, own),
    pages: async (queries) =>
      (await source.pages(queries.map(confine))).map(({ grids }, i) => ({ query: queries[i]!, grids })),
    lines: (query) => source.lines(confine(query)),
    facts: (query) => source.facts(confine(query)),
  };
}

/** A book that lets through only what lies in the reader's scope. */
export function confineBook(book: CellBook, dimensions: readonly Dimension[], own: Scope): CellBook {
  if (Object.keys(own).length === 0) return book;
  // Thousands of look-ups are of the same few scopes.
  const confined = new WeakMap<Scope, Scope>();
  const confine = (scope: Scope): Scope => getOrCreate(confined, scope, () => intersectScopes(dimensions, scope, own));
  return { ...book, sum: (read) => book.sum({ ...read, scope: confine(read.scope) }) };
}
