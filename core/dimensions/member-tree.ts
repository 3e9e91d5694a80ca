import { getOrCreate } from "../collections/keyed.ts";
import type { Member, Dimension } from "./dimension.ts";

/** Members by their keys and by what lies above them. */
export interface MemberTree {
  readonly byKey: ReadonlyMap<string, Member>;
  /** The members right below each member that has some, in the dimension's order. */
  readonly below: ReadonlyMap<string, readonly Member[]>;
  /** Where each stands in the dimension's order. */
  readonly placeOf: ReadonlyMap<string, number>;
}

const trees = new WeakMap<readonly Member[], MemberTree>();

/** The tree of a list of members, which never changes: found once, since there may be ten thousands that are asked for. */
export function memberTree({ members }: { readonly members: readonly Member[] }): MemberTree {
  return getOrCreate(trees, members, () => {
    const below = new Map<string, Member[]>();
    for (const member of members)
      if (member.parent !== null) getOrCreate(below, member.parent, (): Member[] => []).push(member);
    return {
      byKey: new Map(members.map((member) => [member.key, member])),
      below,
      placeOf: new Map(members.map(({ key }, place) => [key, place])),
    };
  });
}

/** The chosen members and everything below them, in the dimension's order. */
export function withDescendants(dimension: Dimension, chosen: readonly string[]): string[] {
  const { below, placeOf } = memberTree(dimension);
  const inside = new Set<string>();
  const open = [...chosen];
  for (let key = open.pop(); key !== undefined; key = open.pop()) {
    if (inside.has(key)) continue;
    inside.add(key);
    for (const member of below.get(key) ?? []) open.push(member.key);
  }
  return [...inside].filter((key) => placeOf.has(key)).sort((a, b) => placeOf.get(a)! - placeOf.get(b)!);
}
