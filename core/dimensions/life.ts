import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { memberTree, withDescendants } from "./member-tree.ts";
import { type Dimension, type Member } from "./dimension.ts";

/** From when to when something exists; an open end is infinite. */
export interface Life {
  readonly from: number;
  readonly to: number;
}

/** The life of a member; one that says nothing itself lives as long as those below it together. */
export function lifeOf(dimension: Dimension, key: string): Life {
  const tree = memberTree(dimension);
  const own = tree.byKey.get(key);
  const isSaid = own && (isMonth(own.firstMonth) || isMonth(own.lastMonth));
  const below = tree.below.get(key) ?? [];
  if (isSaid || below.length === 0) return said(own);
  const lives = below.map((member) => lifeOf(dimension, member.key));
  return { from: Math.min(...lives.map((l) => l.from)), to: Math.max(...lives.map((l) => l.to)) };
}

/** Whether any of the members, with all below them, exists in any of the months; so does what has no members or no months. */
export function isAlive(dimension: Dimension, members: readonly string[], months: readonly Month[]): boolean {
  if (members.length === 0 || months.length === 0) return true;
  const all = withDescendants(dimension, members);
  const { below } = memberTree(dimension);
  const leaves = all.filter((key) => !below.has(key));
  const [from, to] = [Math.min(...months), Math.max(...months)];
  return leaves.some((key) => pathTo(dimension, key).every((life) => life.from <= to && life.to >= from));
}

const bounded = new WeakMap<Dimension, Map<string, boolean>>();

/** Whether there are months in which a member, with all below it, does not exist. */
export function hasBounds(dimension: Dimension, key: string): boolean {
  return getOrCreate(
    getOrCreate(bounded, dimension, () => new Map<string, boolean>()),
    key,
    () => !isAlive(dimension, [key], [-Infinity]) || !isAlive(dimension, [key], [Infinity]),
  );
}

/** A member exists no longer than what lies above it. */
function pathTo(dimension: Dimension, key: string): Life[] {
  const path: Life[] = [];
  const seen = new Set<string>();
  for (let at: string | null = key; at !== null && !seen.has(at);) {
    seen.add(at);
    const member: Member | undefined = memberTree(dimension).byKey.get(at);
    path.push(said(member));
    at = member?.parent ?? null;
  }
  return path;
}

function said(member: Member | undefined): Life {
  return { from: member?.firstMonth ?? -Infinity, to: member?.lastMonth ?? Infinity };
}

function isMonth(month: Month | null | undefined): month is Month {
  return month !== null && month !== undefined;
}
