import { withDescendants, type Dimension } from "../dimensions/dimension.ts";
import { scopeKey } from "../dimensions/step-scope.ts";
import { getOrCreate } from "../keyed.ts";
import type { Month } from "../calendar/month.ts";
import type { Cell, CellQuery, ScenarioWindow } from "./cell-source.ts";

/** Reads that are asked as one: its answer is shared out among them. */
export interface Bundle {
  readonly query: CellQuery;
  /** The cells of each read, by its place in the book. */
  readonly split: (cells: readonly Cell[]) => readonly (readonly [key: string, cells: readonly Cell[]])[];
}

type Read = readonly [key: string, query: CellQuery];

/**
 * Bundles reads that differ only in which members of one dimension they look at: a ranking, a
 * row opened by members or tiles repeated by them ask once, and not once for each member.
 */
export function bundleReads(reads: ReadonlyMap<string, CellQuery>, dimensions: readonly Dimension[]): Bundle[] {
  let left: Read[] = [...reads];
  const bundles: Bundle[] = [];
  for (const dimension of dimensions) {
    const alike = new Map<string, Read[]>();
    for (const read of left) {
      const { scope, throughDay } = read[1];
      const { [dimension.key]: chosen, ...rest } = scope;
      if (chosen) getOrCreate(alike, `${throughDay ?? ""}${scopeKey(rest)}`, (): Read[] => []).push(read);
    }
    const together = [...alike.values()].filter((group) => group.length > 1);
    bundles.push(...together.map((group) => bundle(group, dimension)));
    const taken = new Set(together.flat());
    left = left.filter((read) => !taken.has(read));
  }
  return [...left.map(([key, query]): Bundle => ({ query, split: (cells) => [[key, cells]] })), ...bundles];
}

function bundle(reads: readonly Read[], dimension: Dimension): Bundle {
  const queries = reads.map(([, query]) => query);
  const readersOf = new Map<string, string[]>();
  for (const [key, { scope }] of reads)
    for (const member of withDescendants(dimension, scope[dimension.key]!))
      getOrCreate(readersOf, member, (): string[] => []).push(key);
  return {
    query: {
      ...queries[0]!,
      accounts: [...new Set(queries.flatMap((q) => q.accounts))],
      windows: hull(queries.flatMap((q) => q.windows)),
      scope: { ...queries[0]!.scope, [dimension.key]: [...readersOf.keys()] },
      by: dimension.key,
    },
    split: (cells) => {
      const shares = new Map(reads.map(([key]) => [key, [] as Cell[]]));
      for (const cell of cells) for (const key of readersOf.get(cell.member!) ?? []) shares.get(key)!.push(cell);
      return [...shares];
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
