import { memberTree, withDescendants } from "./member-tree.ts";
import { memberDepth, type Dimension } from "./dimension.ts";

/**
 * Which members are in: per dimension key the chosen members. A dimension that is
 * not named is not restricted; an empty list lets nothing through.
 */
export type Scope = Readonly<Record<string, readonly string[]>>;

/** The scope that restricts nothing. */
export const EVERYTHING: Scope = {};

/** Both scopes at once: per dimension the members (with their descendants) that are in both. */
export function intersectScopes(dimensions: readonly Dimension[], a: Scope, b: Scope): Scope {
  const result: Record<string, readonly string[]> = {};
  for (const dimension of dimensions) {
    const inA = a[dimension.key];
    const inB = b[dimension.key];
    if (inA && inB) {
      const bAll = new Set(withDescendants(dimension, inB));
      const common = withDescendants(dimension, inA).filter((m) => bAll.has(m));
      result[dimension.key] = topmost(dimension, common);
    } else {
      const only = inA ?? inB;
      if (only) result[dimension.key] = only;
    }
  }
  return result;
}

/** How deep a dimension must be kept for the scope: the deepest level chosen in it. */
export function requiredDepth(dimension: Dimension, chosen: readonly string[]): number {
  return Math.max(1, ...chosen.map((m) => memberDepth(dimension, m)));
}

/** The scope in the words of the frame sentence: "all routes" or the chosen names. */
export function scopeName(dimensions: readonly Dimension[], scope: Scope, everything: string): string {
  const parts = dimensions.flatMap((dimension) => {
    const chosen = scope[dimension.key];
    if (!chosen) return [];
    if (chosen.length === 0) return [`no ${dimension.name.toLowerCase()}`];
    const names = chosen.map((key) => memberTree(dimension).byKey.get(key)?.name ?? key);
    return [names.length > 2 ? `${names.length} of the ${dimension.plural}` : names.join(" and ")];
  });
  return parts.length === 0 ? everything : parts.join(", ");
}

/** Whether all that a scope lets through is let through by another as well. */
export function isWithinScope(dimensions: readonly Dimension[], inner: Scope, outer: Scope): boolean {
  return Object.entries(outer).every(([key, members]) => {
    const dimension = dimensions.find((own) => own.key === key);
    const own = inner[key];
    if (!dimension || !own) return false;
    const all = new Set(withDescendants(dimension, members));
    return own.every((member) => all.has(member));
  });
}

function topmost(dimension: Dimension, members: readonly string[]): string[] {
  const inside = new Set(members);
  const { byKey } = memberTree(dimension);
  return members.filter((m) => !inside.has(byKey.get(m)?.parent ?? ""));
}
