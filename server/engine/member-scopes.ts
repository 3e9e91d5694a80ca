import type { MeasureFrame } from "#core/compare/measure.ts";
import { memberDepth, type Dimension } from "#core/dimensions/dimension.ts";
import { intersectScopes, type Scope } from "#core/dimensions/scope.ts";
import { visibleDimensions } from "#server/access/confine.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import type { Workspace } from "./workspace.ts";

/** A member with the part of the frame's scope that lies in it. */
export interface ShownMember {
  readonly key: string;
  readonly name: string;
  readonly hasBelow: boolean;
  readonly scope: Scope;
}

/**
 * The members below one of them, or those of a level (1 for the top), or the top ones: as far as the
 * reader may see them and the frame's scope reaches. Throws when there is no such parent.
 */
export function memberScopes(
  { reader }: Workspace,
  own: MeasureFrame,
  dimension: Dimension,
  { parent, level }: { parent: string | null; level?: number | undefined },
): ShownMember[] {
  const visible = visibleDimensions([dimension], reader.scope)[0]!;
  if (parent !== null && !visible.members.some((m) => m.key === parent))
    throw new ProblemError("unknown-scope", `There is no ${dimension.name.toLowerCase()} "${parent}".`);
  return visible.members
    .filter((m) =>
      parent === null && level !== undefined ? memberDepth(dimension, m.key) === level : m.parent === parent,
    )
    .map(({ key, name }) => ({
      key,
      name,
      hasBelow: visible.members.some((m) => m.parent === key),
      scope: intersectScopes(own.dimensions, own.scope, { [dimension.key]: [key] }),
    }))
    .filter(({ scope }) => scope[dimension.key]!.length > 0);
}

/** The same for a reader. */
export function wireMember({ scope, ...member }: ShownMember) {
  return { ...member, scope: Object.fromEntries(Object.entries(scope).map(([key, keys]) => [key, [...keys]])) };
}
