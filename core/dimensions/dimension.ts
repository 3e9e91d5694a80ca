import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";

/** A member of a dimension; members without a parent are its top level. */
export interface Member {
  readonly key: string;
  readonly name: string;
  readonly parent: string | null;
  /** Other names it goes by in files. */
  readonly aliases?: readonly string[];
  /** Keeps its history, but takes no new facts without a warning. */
  readonly isRetired?: boolean;
  /** The first and last month in which it exists; open where `null` or not said. */
  readonly firstMonth?: Month | null;
  readonly lastMonth?: Month | null;
  /** What else is known of it, by attribute name. */
  readonly attributes?: Readonly<Record<string, string>>;
}

/** A dimension with its hierarchy. `levels` names the levels from the top down. */
export interface Dimension {
  readonly key: string;
  readonly name: string;
  readonly plural: string;
  readonly levels: readonly string[];
  readonly members: readonly Member[];
}

/** The member's level, 1 for the top; 0 when the dimension has no such member. */
export function memberDepth({ members }: Pick<Dimension, "members">, key: string): number {
  return getOrCreate(depths, members, () => depthsOf(members)).get(key) ?? 0;
}

/** Found once for a list of members, which never changes: there may be ten thousands, each of which is asked for. */
const depths = new WeakMap<readonly Member[], ReadonlyMap<string, number>>();

function depthsOf(members: readonly Member[]): ReadonlyMap<string, number> {
  const byKey = new Map(members.map((m) => [m.key, m]));
  const known = new Map<string, number>();
  const depthOf = (member: Member): number => {
    const found = known.get(member.key);
    if (found !== undefined) return found;
    const parent = member.parent === null ? undefined : byKey.get(member.parent);
    const depth = parent ? depthOf(parent) + 1 : 1;
    known.set(member.key, depth);
    return depth;
  };
  for (const member of members) depthOf(member);
  return known;
}
