import { listed } from "#core/formats/listed.ts";
import { countOf } from "#core/formats/count-words.ts";
import type { Structure } from "#server/db/structure.ts";

/** What a load brought besides facts, by keys. */
export interface Brought {
  readonly datasets: readonly string[];
  readonly dimensions: readonly string[];
  readonly accounts: readonly string[];
  /** By dimension; of dimensions that were there before. */
  readonly members: Readonly<Record<string, readonly string[]>>;
  readonly kpis: readonly string[];
  readonly packs: readonly string[];
}

type Parts = Pick<Structure, "accounts" | "dimensions" | "coverage">;

/** What is in the structure now and was not before. */
export function broughtBetween(before: Parts, after: Parts): Brought {
  const known = new Map(before.dimensions.map((d) => [d.key, new Set(d.members.map((m) => m.key))]));
  const members = after.dimensions.flatMap((d) => {
    const own = known.get(d.key);
    const added = own ? d.members.filter((m) => !own.has(m.key)).map((m) => m.key) : [];
    return added.length > 0 ? [[d.key, added] as const] : [];
  });
  return {
    datasets: [...after.coverage.datasets.keys()].filter((key) => !before.coverage.datasets.has(key)),
    dimensions: after.dimensions.map((d) => d.key).filter((key) => !known.has(key)),
    accounts: [...after.accounts.accounts.keys()].filter((key) => !before.accounts.accounts.has(key)),
    members: Object.fromEntries(members),
    kpis: [],
    packs: [],
  };
}

/** What of it is still there, in words: "the accounts Sales and Rent"; empty where nothing is. */
export function broughtWords(
  brought: Brought,
  { accounts, dimensions, coverage, kpis }: Pick<Structure, "accounts" | "dimensions" | "coverage" | "kpis">,
  packNames: ReadonlyMap<string, string>,
): string[] {
  const named = (thing: string, names: readonly string[]) =>
    names.length === 0 ? [] : [`${names.length === 1 ? `the ${thing}` : countOf(names.length, thing)}: ${few(names)}`];
  const found = <T>(keys: readonly string[], get: (key: string) => T | undefined, name: (thing: T) => string) =>
    keys.flatMap((key) => {
      const thing = get(key);
      return thing === undefined ? [] : [name(thing)];
    });
  const dimension = (key: string) => dimensions.find((d) => d.key === key);
  return [
    ...named(
      "pack",
      found(brought.packs, (key) => packNames.get(key), String),
    ),
    ...named(
      "KPI",
      found(
        brought.kpis,
        (key) => kpis.get(key),
        (kpi) => kpi.definition.name,
      ),
    ),
    ...named(
      "dataset",
      found(
        brought.datasets,
        (key) => coverage.datasets.get(key),
        (d) => d.name,
      ),
    ),
    ...named(
      "account",
      found(
        brought.accounts,
        (key) => accounts.accounts.get(key),
        (a) => a.name,
      ),
    ),
    ...named(
      "dimension",
      found(brought.dimensions, dimension, (d) => d.name),
    ),
    ...Object.entries(brought.members).flatMap(([key, keys]) => {
      const own = dimension(key);
      const names = own?.members.filter((m) => keys.includes(m.key)).map((m) => m.name) ?? [];
      return own && names.length > 0 ? [`${countOf(names.length, "member")} of ${own.name}: ${few(names)}`] : [];
    }),
  ];
}

function few(names: readonly string[]): string {
  return names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : listed(names);
}
