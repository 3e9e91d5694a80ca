import { editDistance } from "../formula/nearest-name.ts";

/** A thing that files call by name. */
export interface Named {
  readonly key: string;
  readonly name: string;
  readonly aliases?: readonly string[];
}

/** A thing a name in a file may mean, with how alike they are from 0 to 1. */
export interface NameProposal {
  readonly key: string;
  readonly name: string;
  readonly likeness: number;
}

/** Names are the same when they differ only in case, width and number of spaces, kind of dash, or Unicode form. */
export function plainName(text: string): string {
  return text
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(/[\s\u00a0_]+/g, " ")
    .replace(/ ?- ?/g, "-")
    .trim();
}

/** Things by each of their plain names. A plain name that several things share finds none of them. */
export function indexNames(things: readonly Named[]): ReadonlyMap<string, string> {
  const index = new Map<string, string>();
  const shared = new Set<string>();
  const claim = (name: string, key: string) => {
    const plain = plainName(name);
    if (plain === "") return;
    if (index.has(plain) && index.get(plain) !== key) shared.add(plain);
    else index.set(plain, key);
  };
  for (const thing of things) claim(thing.name, thing.key);
  for (const thing of things) for (const alias of thing.aliases ?? []) claim(alias, thing.key);
  for (const name of shared) index.delete(name);
  // Keys count last: a name that reads like another thing's key is the name.
  for (const thing of things)
    if (!index.has(plainName(thing.key)) && !shared.has(plainName(thing.key)))
      index.set(plainName(thing.key), thing.key);
  return index;
}

/** The likest things to a name, best first; at most `limit`, none below a likeness of 0.5. */
export function proposeNames(text: string, things: readonly Named[], limit = 3): NameProposal[] {
  const plain = plainName(text);
  return things
    .map((thing) => ({
      key: thing.key,
      name: thing.name,
      likeness: Math.max(...[thing.name, ...(thing.aliases ?? [])].map((name) => likeness(plain, plainName(name)))),
    }))
    .filter((proposal) => proposal.likeness >= 0.5)
    .sort((a, b) => b.likeness - a.likeness || a.name.localeCompare(b.name))
    .slice(0, limit);
}

/** The better of two views: how few letters must change, and how many words are shared. */
function likeness(a: string, b: string): number {
  const letters = 1 - editDistance(a, b) / Math.max(a.length, b.length, 1);
  const wordsA = wordsOf(a);
  const wordsB = wordsOf(b);
  const shared = wordsA.filter((word) => wordsB.includes(word)).length;
  const words = shared === 0 ? 0 : (0.9 * 2 * shared) / (wordsA.length + wordsB.length);
  return Math.max(letters, words);
}

function wordsOf(name: string): string[] {
  return name
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 1)
    .map((word) => (word.length > 3 ? word.replace(/s$/, "") : word));
}

/** A key for a new thing: its name in plain letters, apart from the keys there are. */
export function newKey(name: string, taken: ReadonlySet<string>, separator: "-" | "_"): string {
  const plain = name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, separator)
    .replace(new RegExp(`^\\${separator}+|\\${separator}+$`, "g"), "")
    .slice(0, 60);
  const base =
    plain === "" ? `x${hashText(name).toString(36)}` : /^[a-z]/.test(plain) ? plain : `x${separator}${plain}`;
  for (let n = 1; ; n += 1) {
    const key = n === 1 ? base : `${base}${separator}${n}`;
    if (!taken.has(key)) return key;
  }
}

/** A number of 32 bits that stands for a text (FNV-1a, Fowler, Noll and Vo 1991). */
export function hashText(text: string, seed = 0x811c9dc5): number {
  let hash = seed;
  for (let i = 0; i < text.length; i += 1) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
