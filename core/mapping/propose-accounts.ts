import { wholeWords } from "./whole-words.ts";
import type { AccountKind } from "../accounts/account.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { natureOfName } from "./measure-nature.ts";
import { readNumber } from "../reading/read-number.ts";
import type { Meaning, NameDecision, NewAccount } from "./mapping.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { indentedPlaces, numberedPlaces, rangesOf, type AccountPlaces } from "./account-places.ts";
import { newKey, plainName } from "../reading/names.ts";
import type { Sample } from "./sample.ts";

/** The accounts of a file whose account column names none that there are, made in one step. */
export interface ProposedAccounts {
  readonly accounts: readonly NewAccount[];
  /** By the text in the account column: the new account, or left out where it is the sum of others. */
  readonly decisions: Readonly<Record<string, NameDecision>>;
  /** The column that names the accounts beside their numbers; `null` where none does. */
  readonly nameColumn: string | null;
  /** The columns that say which class an account belongs to, the widest first. */
  readonly classColumns: readonly string[];
  /** Rows' names that are sums of other rows, and are left out. */
  readonly sums: readonly string[];
}

const NAME_COLUMN = wholeWords(
  "name|names|title|bezeichnung|beschreibung|text|description|libellé|account name|kontobezeichnung",
);
/** What rows are called that sum up others. */
const RESULT = wholeWords(
  "total|subtotal|result|profit|ebitda?|ebit|net income|gross profit|gross margin|operating income|summe|ergebnis|gewinn|rohertrag|deckungsbeitrag",
);

const MOST_ACCOUNTS = 400;
/** How close sums must be: to the rounding of whole units in the rows that are added up. */
const CLOSE = 1e-6;

/** Proposes an account for each name of a column, with its kind by what it is called; `undefined` where there are too many. */
export function proposeAccounts(
  profiles: readonly ColumnProfile[],
  { sample, raw }: { readonly sample: Sample; readonly raw: Sample },
  columns: Readonly<Record<string, Meaning>>,
  taken: ReadonlySet<string>,
): ProposedAccounts | undefined {
  const place = profiles.findIndex((profile) => columns[profile.name]?.as === "account");
  if (place < 0) return undefined;
  const told = [...sample.rows, ...(sample.further ?? [])];
  const texts = [...new Set(told.map((row) => (row[place] ?? "").trim()))].filter((text) => text !== "");
  if (texts.length === 0 || texts.length > MOST_ACCOUNTS) return undefined;
  const beside = nameColumnOf(profiles, sample, columns, place);
  const nameOf = (text: string): string => {
    const named = beside === null ? "" : (told.find((row) => (row[place] ?? "").trim() === text)?.[beside] ?? "");
    return named.trim() === "" ? text : named.trim();
  };
  const classes = classColumnsOf(profiles, sample, columns, { place, beside });
  const inFile = raw.columns.indexOf(profiles[place]!.name);
  const drawn = inFile < 0 ? [] : raw.rows.map((row) => row[inFile] ?? "");
  const values = valuesByAccount(profiles, sample, columns, place);
  const places = classes.length > 0 ? undefined : soundPlaces(indentedPlaces(drawn) ?? numberedPlaces(texts), values);
  const parents = new Set(texts.filter((text) => places?.get(text)?.isParent));
  const leaves = texts.filter((text) => !parents.has(text));
  // A heading, or a note, has no amounts at all.
  const bare = places && values.size > 0 ? leaves.filter((text) => !values.has(text)) : [];
  const sums = new Set([
    ...parents,
    ...bare,
    ...sumsAmong(values, leaves),
    ...followingRows(leaves, { nameOf, cellsOf: (text) => cellsOf(text, told, { place, profiles, columns }) }),
  ]);
  const ranges = classes.length > 0 || places ? undefined : rangesOf(leaves);
  const kindOfRange = kindsOfRanges(ranges, nameOf);
  const keys = new Set(taken);
  const tree = classTree(keys);
  const decisions: Record<string, NameDecision> = {};
  const amounts = profiles.flatMap(({ name, mark }, i) => {
    const as = columns[name]?.as;
    return as === "amount" || as === "quantity" ? [{ i, mark }] : [];
  });
  const decimalsOf = (text: string) =>
    Math.min(
      4,
      told
        .filter((row) => (row[place] ?? "").trim() === text)
        .flatMap((row) => amounts.map(({ i, mark }) => readNumber(row[i] ?? "", mark)?.decimals ?? 0))
        .reduce((most, own) => Math.max(most, own), 0),
    );
  const accounts = texts.flatMap((text): NewAccount[] => {
    if (sums.has(text)) {
      decisions[text] = { reject: true };
      return [];
    }
    const name = nameOf(text);
    const key = newKey(name, keys, "_");
    keys.add(key);
    decisions[text] = { to: key };
    const row = told.find((own) => (own[place] ?? "").trim() === text);
    const path = [
      ...classes.map((i) => (row?.[i] ?? "").trim()),
      ...(places?.get(text)?.above.map(nameOf) ?? []),
      ...(ranges ? [ranges.get(text)!] : []),
    ].filter((part) => part !== "" && part !== name);
    const own = accountOf(key, name, path, {
      otherwise: kindOfRange.get(ranges?.get(text) ?? ""),
      decimals: decimalsOf(text),
    });
    tree.add(own, path);
    return [own];
  });
  return {
    accounts: tree.withClasses(accounts),
    decisions,
    nameColumn: beside === null ? null : profiles[beside]!.name,
    classColumns: classes.map((i) => profiles[i]!.name),
    sums: [...sums],
  };
}

/** The filled cells of amounts on the rows of an account. */
function cellsOf(
  text: string,
  rows: readonly (readonly string[])[],
  {
    place,
    profiles,
    columns,
  }: { place: number; profiles: readonly ColumnProfile[]; columns: Readonly<Record<string, Meaning>> },
): string[] {
  const places = profiles.flatMap(({ name }, i) => {
    const as = columns[name]?.as;
    return as === "amount" || as === "quantity" ? [i] : [];
  });
  return rows
    .filter((row) => (row[place] ?? "").trim() === text)
    .flatMap((row) => places.map((i) => (row[i] ?? "").trim()))
    .filter((cell) => cell !== "");
}

/**
 * Names of rows that follow from others and are not added to them: rates and prices, and results such as a gross profit
 * where what is earned and what is spent stand beside them.
 */
function followingRows(
  texts: readonly string[],
  { nameOf, cellsOf }: { nameOf: (text: string) => string; cellsOf: (text: string) => readonly string[] },
): string[] {
  const natures = texts.map((text) => natureOfName(nameOf(text)));
  const hasParts = natures.includes("income") && natures.includes("expense");
  return texts.filter((text, i) => {
    if (natures[i] === "rate" || natures[i] === "price" || (natures[i] === "result" && hasParts)) return true;
    const cells = cellsOf(text);
    return cells.length > 0 && cells.every((cell) => cell.endsWith("%"));
  });
}

/** The kind of account that a name says; what is neither earned nor spent nor kept is counted. */
function kindOf(text: string): AccountKind | undefined {
  const nature = natureOfName(text);
  if (nature === "count" || nature === "count-balance") return "statistic";
  if (nature === "rate" || nature === "price") return undefined;
  return nature === "result" ? "income" : nature;
}

/** What most accounts of a range of numbers are that say it by their names: the others are likely the same. */
function kindsOfRanges(
  ranges: ReadonlyMap<string, string> | undefined,
  nameOf: (text: string) => string,
): ReadonlyMap<string, AccountKind> {
  const counts = new Map<string, Map<AccountKind, number>>();
  for (const [text, range] of ranges ?? []) {
    const kind = kindOf(nameOf(text));
    if (kind === undefined || kind === "statistic") continue;
    const own = getOrCreate(counts, range, () => new Map<AccountKind, number>());
    own.set(kind, (own.get(kind) ?? 0) + 1);
  }
  return new Map([...counts].map(([range, own]) => [range, [...own].reduce((a, b) => (b[1] > a[1] ? b : a))[0]]));
}

/** An account by what its class says it is, the narrowest that says it, and by its name where none does. */
function accountOf(
  key: string,
  name: string,
  path: readonly string[],
  { otherwise, decimals }: { readonly otherwise: AccountKind | undefined; readonly decimals: number },
): NewAccount {
  const said =
    [...path]
      .reverse()
      .map(kindOf)
      .find((found) => found !== undefined) ??
    kindOf(name) ??
    otherwise;
  const kind = said ?? "expense";
  if (kind === "statistic")
    return {
      key,
      name,
      kind,
      behaviour: natureOfName(name) === "count-balance" ? "balance" : "flow",
      unit: { kind: "count", of: name.toLowerCase() },
      decimals,
    };
  const isBalance = kind === "asset" || kind === "liability" || kind === "equity";
  return {
    key,
    name,
    kind,
    behaviour: isBalance ? "balance" : "flow",
    unit: { kind: "money" },
    decimals: 2,
    ...(said === undefined ? { isGuess: true } : {}),
  };
}

const CLASS_COLUMN = wholeWords(
  "class|subclass|sub ?class|type|category|subcategory|sub ?category|group|subgroup|sub ?group|statement|section|level|klasse|kontenklasse|kontenart|gruppe|kontengruppe|untergruppe|kategorie|classe|catégorie|groupe",
);

/** Columns that put each account in one class of several, the widest classes first. */
function classColumnsOf(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  columns: Readonly<Record<string, Meaning>>,
  { place, beside }: { readonly place: number; readonly beside: number | null },
): number[] {
  const distinct = (i: number) => new Set(sample.rows.map((row) => (row[i] ?? "").trim())).size;
  return profiles
    .flatMap((profile, i) =>
      i !== place &&
      i !== beside &&
      profile.type === "text" &&
      !columns[profile.name] &&
      CLASS_COLUMN.test(profile.name)
        ? [i]
        : [],
    )
    .filter((i) => distinct(i) > 1 && distinct(i) < distinct(place) && followsFrom(sample, place, i))
    .sort((a, b) => distinct(a) - distinct(b));
}

/** Whether rows that agree in one column agree in the other too. */
function followsFrom(sample: Sample, place: number, other: number): boolean {
  const said = new Map<string, string>();
  return sample.rows.every((row) => {
    const [text, own] = [(row[place] ?? "").trim(), (row[other] ?? "").trim()];
    const before = said.get(text);
    said.set(text, own);
    return before === undefined || before === own;
  });
}

/** Accounts that sum others by their classes; a class whose accounts are gathered differently sums none. */
function classTree(keys: Set<string>) {
  const paths = new Map<string, readonly string[]>();
  return {
    add: (account: NewAccount, path: readonly string[]) => void paths.set(account.key, path),
    withClasses(accounts: readonly NewAccount[]): NewAccount[] {
      const below = new Map<string, NewAccount[]>();
      for (const account of accounts)
        paths.get(account.key)!.forEach((_, depth, path) => {
          const name = JSON.stringify(path.slice(0, depth + 1));
          below.set(name, [...(below.get(name) ?? []), account]);
        });
      const made = new Map<string, NewAccount>();
      for (const [name, own] of below) {
        const first = own[0]!;
        const isOneKind = own.every((one) => one.kind === first.kind && one.unit.kind === first.unit.kind);
        if (!isOneKind || first.unit.kind === "count") continue;
        const path = JSON.parse(name) as string[];
        const key = newKey(path.at(-1)!, keys, "_");
        keys.add(key);
        made.set(name, { ...first, key, name: path.at(-1)!, parent: nearest(path.slice(0, -1), made) });
      }
      return [
        ...made.values(),
        ...accounts.map((account) => ({ ...account, parent: nearest(paths.get(account.key)!, made) })),
      ];
    },
  };
}

/** The narrowest class of a path that sums accounts. */
function nearest(path: readonly string[], made: ReadonlyMap<string, NewAccount>): string | null {
  for (let depth = path.length; depth > 0; depth -= 1) {
    const found = made.get(JSON.stringify(path.slice(0, depth)));
    if (found) return found.key;
  }
  return null;
}

/** Whether the texts of a column are mostly names of what is measured. */
function namesMeasures(sample: Sample, place: number): boolean {
  const texts = [...new Set(sample.rows.map((row) => (row[place] ?? "").trim()))].filter((text) => text !== "");
  return texts.length > 0 && texts.filter((text) => natureOfName(text) !== undefined).length * 2 >= texts.length;
}

/** The column of texts that has one name for each account, where one is called so. */
function nameColumnOf(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  columns: Readonly<Record<string, Meaning>>,
  place: number,
): number | null {
  const found = profiles.findIndex((profile, i) => {
    if (i === place || profile.type !== "text" || columns[profile.name]) return false;
    return (NAME_COLUMN.test(profile.name) || namesMeasures(sample, i)) && followsFrom(sample, place, i);
  });
  return found < 0 ? null : found;
}

/** By account, then period, its amount; empty where something else tells rows apart, so that sums cannot be told. */
type AccountValues = ReadonlyMap<string, ReadonlyMap<string, number>>;

function valuesByAccount(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  columns: Readonly<Record<string, Meaning>>,
  place: number,
): AccountValues {
  const value = profiles.findIndex(({ name }) => columns[name]?.as === "amount");
  const period = profiles.findIndex(({ name }) => columns[name]?.as === "period");
  const vectors = new Map<string, Map<string, number>>();
  if (value < 0) return vectors;
  for (const row of sample.rows) {
    const read = readNumber(row[value] ?? "", profiles[value]!.mark);
    if (!read) continue;
    const own = getOrCreate(vectors, (row[place] ?? "").trim(), () => new Map<string, number>());
    const key = period < 0 ? "" : (row[period] ?? "");
    if (own.has(key)) return new Map();
    own.set(key, read.units / 10 ** read.decimals);
  }
  return vectors;
}

/** A tree whose parents have no amounts of their own, or what those below them come to; `undefined` where one has more. */
function soundPlaces(places: AccountPlaces | undefined, values: AccountValues): AccountPlaces | undefined {
  for (const [text, { isParent }] of places ?? []) {
    const own = values.get(text);
    if (!isParent || own === undefined || [...own.values()].every((amount) => amount === 0)) continue;
    const below = [...places!].filter(([, place]) => !place.isParent && place.above.includes(text));
    const terms = below.flatMap(([leaf]) => values.get(leaf) ?? []).map((term) => [term, 1] as const);
    if (!equalsSum(own, terms)) return undefined;
  }
  return places;
}

function equalsSum(
  own: ReadonlyMap<string, number>,
  terms: readonly (readonly [ReadonlyMap<string, number>, number])[],
): boolean {
  return (
    own.size > 0 &&
    [...own].some(([, of]) => of !== 0) &&
    [...own].every(([key, of]) => {
      const sum = terms.reduce((all, [term, sign]) => all + sign * (term.get(key) ?? 0), 0);
      return Math.abs(sum - of) <= Math.max(0.011, Math.abs(of) * CLOSE);
    })
  );
}

/**
 * Names whose rows are the sum of the rows above since the last such sum, or a sum or difference of two sums before:
 * told by their values in every period, where nothing but account and period tells rows apart.
 */
function sumsAmong(vectors: AccountValues, texts: readonly string[]): ReadonlySet<string> {
  const found = new Set<string>();
  let block: ReadonlyMap<string, number>[] = [];
  const subtotals: ReadonlyMap<string, number>[] = [];
  for (const text of texts) {
    const own = vectors.get(text);
    if (!own) continue;
    const isSum =
      block.length >= 2 &&
      equalsSum(
        own,
        block.map((term) => [term, 1] as const),
      );
    const isCombined = subtotals.some((a, i) =>
      subtotals.slice(i + 1).some(
        (b) =>
          [1, -1].some((sign) =>
            equalsSum(own, [
              [a, 1],
              [b, sign],
            ]),
          ) ||
          equalsSum(own, [
            [b, 1],
            [a, -1],
          ]),
      ),
    );
    const isNamed =
      RESULT.test(plainName(text)) &&
      subtotals.length > 0 &&
      block.length > 0 &&
      subtotals.some((a) =>
        [1, -1].some((sign) => equalsSum(own, [[a, 1], ...block.map((term) => [term, sign] as const)])),
      );
    if (isSum || isCombined || isNamed) {
      found.add(text);
      subtotals.push(own);
      block = [];
    } else block.push(own);
  }
  return found;
}
