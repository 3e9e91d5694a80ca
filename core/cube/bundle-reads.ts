import { type Dimension } from "../dimensions/dimension.ts";
import { scopeKey } from "../dimensions/step-scope.ts";
import { getOrCreate } from "../collections/keyed.ts";
import type { Month } from "../calendar/month.ts";
import {
  pageOfCells,
  type BookPage,
  type Cell,
  type CellQuery,
  type CellSource,
  type ScenarioWindow,
} from "./cell-source.ts";
import { withDescendants } from "../dimensions/member-tree.ts";

/** Queries that are asked as one: its answer is shared out among them. */
export interface Bundle {
  readonly query: CellQuery;
  /** Each query with its own sums. */
  readonly split: (cells: readonly Cell[]) => readonly BookPage[];
}

/** A source over something that answers one query at a time, such as a database: what can be asked as one is. */
export function bundledSource(
  readCells: (query: CellQuery) => Promise<readonly Cell[]>,
  dimensions: readonly Dimension[],
): CellSource {
  return {
    pages: async (queries) => {
      const answers = await Promise.all(
        bundleReads(queries, dimensions).map(async ({ query, split }) => split(await readCells(query))),
      );
      const pageOf = new Map(answers.flat().map((page) => [page.query, page]));
      return queries.map((query) => pageOf.get(query)!);
    },
  };
}

/**
 * Bundles queries that differ only in which members of one dimension they look at: a ranking, a
 * row opened by members or tiles repeated by them ask once, and not once for each member.
 */
export function bundleReads(queries: readonly CellQuery[], dimensions: readonly Dimension[]): Bundle[] {
  let left = [...queries];
  const bundles: Bundle[] = [];
  for (const dimension of dimensions) {
    const alike = new Map<string, CellQuery[]>();
    for (const query of left) {
      const { [dimension.key]: chosen, ...rest } = query.scope;
      if (chosen) getOrCreate(alike, `${query.byDay ? "day" : ""}${scopeKey(rest)}`, (): CellQuery[] => []).push(query);
    }
    const together = [...alike.values()].filter((group) => group.length > 1);
    bundles.push(...together.map((group) => bundle(group, dimension)));
    const taken = new Set(together.flat());
    left = left.filter((query) => !taken.has(query));
  }
  return [...left.map((query): Bundle => ({ query, split: (cells) => [pageOfCells(query, cells)] })), ...bundles];
}

function bundle(queries: readonly CellQuery[], dimension: Dimension): Bundle {
  const askersOf = new Map<string, CellQuery[]>();
  for (const query of queries)
    for (const member of withDescendants(dimension, query.scope[dimension.key]!))
      getOrCreate(askersOf, member, (): CellQuery[] => []).push(query);
  return {
    query: {
      ...queries[0]!,
      accounts: [...new Set(queries.flatMap((q) => q.accounts))],
      windows: hull(queries.flatMap((q) => q.windows)),
      scope: { ...queries[0]!.scope, [dimension.key]: [...askersOf.keys()] },
      by: dimension.key,
    },
    split: (cells) => {
      const shares = new Map(queries.map((query) => [query, [] as Cell[]]));
      for (const cell of cells) for (const query of askersOf.get(cell.member!) ?? []) shares.get(query)!.push(cell);
      return [...shares].map(([query, own]) => pageOfCells(query, own));
    },
  };
}

/** For each scenario the months from the first to the last that any window has. */
function hull(windows: readonly ScenarioWindow[]): ScenarioWindow[] {
  const spans = new Map<string, { from: Month; to: Month }>();
  for (const { scenario, from, to } of windows) {
    const known = spans.get(scenario) ?? { from, to };
    spans.set(scenario, { from: Math.min(from, known.from), to: Math.max(to, known.to) });
  }
  return [...spans].map(([scenario, months]) => ({ scenario, ...months }));
}
