import type { Dimension } from "./dimension.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { intersectScopes, type Scope } from "./scope.ts";

/** A step from a frame's scope to another one. */
export type ScopeStep =
  /** Absent, rather than 0, where none of its members exists. */
  | { readonly do: "only"; readonly dimension: string; readonly members: readonly string[] }
  | { readonly do: "ignore"; readonly dimension: string };

/** The scope that steps lead to; a reader's access holds whatever they say. */
export function stepScope(
  dimensions: readonly Dimension[],
  scope: Scope,
  steps: readonly ScopeStep[],
  access: Scope,
): Scope {
  let at = scope;
  for (const step of steps) {
    if (step.do === "only") {
      at = intersectScopes(dimensions, at, { [step.dimension]: step.members });
    } else {
      const { [step.dimension]: _, ...rest } = at;
      at = rest;
    }
  }
  return intersectScopes(dimensions, at, access);
}

/** A scope as a text that is the same for the same members, in whatever order they are named. */
export function scopeKey(scope: Scope): string {
  return JSON.stringify(
    Object.keys(scope)
      .sort()
      .map((key) => [key, [...scope[key]!].sort()]),
  );
}

const keys = new WeakMap<Scope, string>();

/** The same, written once for a scope that is asked for over and over. */
export function keyOfScope(scope: Scope): string {
  return getOrCreate(keys, scope, () => scopeKey(scope));
}
