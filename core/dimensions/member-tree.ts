import { getOrCreate } from "../keyed.ts";
import type { Member } from "./dimension.ts";

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
