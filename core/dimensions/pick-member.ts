import type { Scope } from "./scope.ts";

/**
 * The members picked after one more is: it takes the place of its dimension's others, or is added to them. One that
 * is picked alone already is taken back; what is picked of other dimensions stays.
 */
export function pickMember(
  picked: Scope,
  { dimension, member, adds }: { readonly dimension: string; readonly member: string; readonly adds: boolean },
): Scope {
  const { [dimension]: own = [], ...others } = picked;
  const isIn = own.includes(member);
  const rest = own.filter((key) => key !== member);
  const next = adds ? (isIn ? rest : [...own, member]) : isIn && rest.length === 0 ? [] : [member];
  return next.length === 0 ? others : { ...others, [dimension]: next };
}
