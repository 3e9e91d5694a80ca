import { emptyScopeAbsence } from "./empty-scope.ts";
import { type Dimension } from "./dimension.ts";
import { intersectScopes, type Scope } from "./scope.ts";
import { withDescendants } from "./member-tree.ts";
import type { Absence } from "../figures/schema.ts";

/** What remains of a scope by a reader's access. */
export interface ConfinedScope {
  readonly scope: Scope;
  readonly absence: Absence | undefined;
}

/** What remains of the asked scope inside the reader's own. */
export function confineScope(dimensions: readonly Dimension[], asked: Scope, own: Scope): ConfinedScope {
  const scope = intersectScopes(dimensions, asked, own);
  return { scope, absence: emptyScopeAbsence(dimensions, asked, scope) };
}

/** The members a reader can be shown to choose from: their own, with what lies below. */
export function visibleDimensions(dimensions: readonly Dimension[], own: Scope): Dimension[] {
  return dimensions.map((dimension) => {
    const chosen = own[dimension.key];
    if (!chosen) return dimension;
    const visible = new Set(withDescendants(dimension, chosen));
    return {
      ...dimension,
      members: dimension.members
        .filter((m) => visible.has(m.key))
        .map((m) => ({ ...m, parent: m.parent !== null && visible.has(m.parent) ? m.parent : null })),
    };
  });
}
