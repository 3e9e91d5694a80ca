import type { Dimension } from "#core/dimensions/dimension.ts";
import { intersectScopes, type Scope } from "#core/dimensions/scope.ts";
import type { FactSource } from "./fact-source.ts";

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
