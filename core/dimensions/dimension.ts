import type { Month } from "../calendar/month.ts";

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
export function memberDepth(dimension: Dimension, key: string): number {
  const byKey = new Map(dimension.members.map((m) => [m.key, m]));
  let depth = 0;
  for (let at = byKey.get(key); at; at = at.parent === null ? undefined : byKey.get(at.parent)) depth += 1;
  return depth;
}

/** The chosen members and everything below them, in the dimension's order. */
export function withDescendants(dimension: Dimension, chosen: readonly string[]): string[] {
  const inside = new Set(chosen);
  let grew = true;
  while (grew) {
    const before = inside.size;
    for (const m of dimension.members) if (m.parent !== null && inside.has(m.parent)) inside.add(m.key);
    grew = inside.size > before;
  }
  return dimension.members.filter((m) => inside.has(m.key)).map((m) => m.key);
}
