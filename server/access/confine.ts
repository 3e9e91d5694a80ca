import { emptyScopeAbsence } from "#core/dimensions/empty-scope.ts";
import { withDescendants, type Dimension } from "#core/dimensions/dimension.ts";
import { intersectScopes, type Scope } from "#core/dimensions/scope.ts";
import type { Absence } from "#core/figures/figure.ts";
import type { FactSource } from "#server/engine/fact-source.ts";

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

/**
 * A source that lets through only what lies in the reader's scope. This is the one
 * place where row access is enforced: every figure and every source line passes here.
 */
export function confineSource(source: FactSource, dimensions: readonly Dimension[], own: Scope): FactSource {
  return {
    cells: (query) => source.cells({ ...query, scope: intersectScopes(dimensions, query.scope, own) }),
    lines: (query) => source.lines({ ...query, scope: intersectScopes(dimensions, query.scope, own) }),
    facts: (query) => source.facts({ ...query, scope: intersectScopes(dimensions, query.scope, own) }),
  };
}

/** The members a reader can be shown to choose from: their own, with what lies below and above. */
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
