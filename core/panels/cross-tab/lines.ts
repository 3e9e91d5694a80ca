import { intersectScopes, type Scope } from "../../dimensions/scope.ts";
import type { Dimension } from "../../dimensions/dimension.ts";
import type { Window } from "../../compare/window.ts";
import type { CrossAxisEntries } from "./axis.ts";

/** What a line takes of the figures; `null` where it does not say. */
export interface Reach {
  /** By dimension, inside the frame's scope. */
  readonly members: Scope;
  readonly kpi: string | null;
  readonly scenario: string | null;
  readonly window: Window | null;
}

/** A row or a column: for each axis of its side the place of its entry, or `null` where it is the total over that axis. */
export interface CrossLine {
  readonly at: readonly (number | null)[];
  readonly reach: Reach;
}

/** Lines as they are nested: an entry or a total of an axis, with what stands below it, or with its own line. */
export interface LineNode {
  readonly entry: number | null;
  readonly children: readonly LineNode[];
  /** On the innermost axis only. */
  readonly line: CrossLine | null;
}

const EVERYTHING: Reach = { members: {}, kpi: null, scenario: null, window: null };

/**
 * All lines of a side, totals included whether they are shown or not: of the total over an axis, the axes inside it
 * have but their totals, save those that do not add up, which stay apart. Members outside of the ones they stand
 * under are left out. `null` where there are more than `most`.
 */
export function nestLines(
  axes: readonly CrossAxisEntries[],
  dimensions: readonly Dimension[],
  most: number,
): readonly LineNode[] | null {
  if (axes.length === 0) return [{ entry: null, children: [], line: { at: [], reach: EVERYTHING } }];
  let count = 0;
  const nest = (at: readonly (number | null)[], reach: Reach): readonly LineNode[] => {
    const depth = at.length;
    const axis = axes[depth];
    if (!axis || count > most) return [];
    const node = (entry: number | null, own: Reach): LineNode => {
      const inside = [...at, entry];
      if (depth < axes.length - 1) return { entry, children: nest(inside, own), line: null };
      count += 1;
      return { entry, children: [], line: { at: inside, reach: own } };
    };
    const isInTotal = axis.totalName !== null && at.includes(null);
    const entries = isInTotal
      ? []
      : axis.entries.flatMap((entry, i) => {
          const own = reachInto(reach, entry, axis.dimension, dimensions);
          return own ? [node(i, own)] : [];
        });
    return axis.totalName === null ? entries : [...entries, node(null, reach)];
  };
  const nested = nest([], EVERYTHING);
  return count > most ? null : nested;
}

/** The lines of nested ones, in their order. */
export function linesOf(nodes: readonly LineNode[]): CrossLine[] {
  return nodes.flatMap(({ line, children }) => (line ? [line] : linesOf(children)));
}

/** The line that stands for a node: its own, or that of its total, or of the first below it. */
export function standingLine({ line, children }: LineNode): CrossLine | null {
  const inner = children.find(({ entry }) => entry === null) ?? children[0];
  return line ?? (inner ? standingLine(inner) : null);
}

/** Of a side's lines the one that is of everything, as far as its places add up: of the others the first. */
export function wholeLine(nodes: readonly LineNode[]): CrossLine | undefined {
  // A total comes after the entries that it is of.
  return linesOf(nodes).findLast(({ at }) => at.every((entry) => entry === null || entry === 0));
}

/** What lets two lines be told to be of one whole: the places that do not add up, with all others open. */
export function wholeKey({ at }: CrossLine, axes: readonly CrossAxisEntries[]): string {
  return at.map((entry, i) => (axes[i]!.totalName === null ? entry : "*")).join();
}

/** A line's places, open ones as totals. */
export function placeKey({ at }: CrossLine): string {
  return at.map((entry) => entry ?? "*").join();
}

/** A line's places by their keys: the same whatever stands beside them. */
export function lineKey({ at }: Pick<CrossLine, "at">, axes: readonly Pick<CrossAxisEntries, "entries">[]): string {
  return at.map((entry, i) => (entry === null ? "*" : axes[i]!.entries[entry]!.key)).join("|");
}

function reachInto(
  reach: Reach,
  { member, kpi, scenario, window }: CrossAxisEntries["entries"][number],
  dimension: string | null,
  dimensions: readonly Dimension[],
): Reach | null {
  if (!member || dimension === null)
    return { ...reach, kpi: kpi ?? reach.kpi, scenario: scenario ?? reach.scenario, window: window ?? reach.window };
  const own = { [dimension]: member.scope[dimension]! };
  const outer = reach.members[dimension];
  const { [dimension]: inside } = outer ? intersectScopes(dimensions, { [dimension]: outer }, own) : own;
  return inside!.length === 0 ? null : { ...reach, members: { ...reach.members, [dimension]: inside! } };
}
