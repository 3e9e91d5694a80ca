import { isPresent } from "../../figures/figure.ts";
import { getOrCreate } from "../../collections/keyed.ts";
import type { CrossAxisEntries } from "./axis.ts";
import { standingLine, type CrossLine, type LineNode } from "./lines.ts";
import type { Figure } from "../../figures/schema.ts";
import type { Direction } from "../../kpis/schema.ts";

/** Without the lines that are not kept, and the groups that so become empty. */
export function pruneLines(nodes: readonly LineNode[], isKept: (line: CrossLine) => boolean): LineNode[] {
  return nodes.flatMap((node) => {
    if (node.line) return isKept(node.line) ? [node] : [];
    const children = pruneLines(node.children, isKept);
    return children.some(({ entry }) => entry !== null) || (node.entry === null && children.length > 0)
      ? [{ ...node, children }]
      : [];
  });
}

/** Without the totals that are not to be shown: those switched off, and those over a single entry. */
export function withShownTotals(nodes: readonly LineNode[], axes: readonly CrossAxisEntries[], depth = 0): LineNode[] {
  const entries = nodes.filter(({ entry }) => entry !== null).length;
  // Below a total stand no entries: what stands there belongs to the total above, which was let through.
  const isShown = entries === 0 || (axes[depth]!.hasTotal && entries > 1);
  return nodes.flatMap((node) =>
    node.entry === null && !isShown ? [] : [{ ...node, children: withShownTotals(node.children, axes, depth + 1) }],
  );
}

/** Entries that add up, ordered among their siblings by a figure of their lines; totals stay last, absent ones before them. */
export function sortLines(
  nodes: readonly LineNode[],
  axes: readonly CrossAxisEntries[],
  figureOf: (line: CrossLine) => Figure,
  isRising: boolean,
  depth = 0,
): LineNode[] {
  const inside = nodes.map((node) => ({
    ...node,
    children: sortLines(node.children, axes, figureOf, isRising, depth + 1),
  }));
  if ((axes[depth]?.totalName ?? null) === null) return inside;
  const keyed = inside.map((node) => {
    const line = standingLine(node);
    const figure = line && figureOf(line);
    return { node, value: figure && isPresent(figure) ? figure.value : null };
  });
  const rankOf = ({ node, value }: (typeof keyed)[number]) => (node.entry === null ? 2 : value === null ? 1 : 0);
  const sign = isRising ? 1 : -1;
  return keyed
    .toSorted((a, b) => rankOf(a) - rankOf(b) || sign * ((a.value ?? 0) - (b.value ?? 0)))
    .map(({ node }) => node);
}

/**
 * The place of each line among those that differ from it in one entry only: that of the innermost axis on which it is
 * no total and whose entries add up. 1 is the best: the highest, or the lowest where lower is better; equal figures
 * share a place.
 */
export function rankLines(
  lines: readonly CrossLine[],
  axes: readonly CrossAxisEntries[],
  figureOf: (line: CrossLine) => { readonly figure: Figure; readonly direction: Direction },
): ReadonlyMap<CrossLine, number> {
  const groups = new Map<string, { line: CrossLine; value: number }[]>();
  for (const line of lines) {
    const axis = line.at.findLastIndex((entry, i) => entry !== null && axes[i]!.totalName !== null);
    if (axis < 0) continue;
    const { figure, direction } = figureOf(line);
    if (!isPresent(figure)) continue;
    const key = line.at.map((entry, i) => (i === axis ? "?" : (entry ?? "*"))).join();
    const value = direction === "lower" ? figure.value : -figure.value;
    getOrCreate(groups, key, (): { line: CrossLine; value: number }[] => []).push({ line, value });
  }
  const ranks = new Map<CrossLine, number>();
  for (const group of groups.values()) {
    const values = group.map(({ value }) => value).toSorted((a, b) => a - b);
    const first = new Map<number, number>();
    for (const [i, value] of values.entries()) if (!first.has(value)) first.set(value, i + 1);
    for (const { line, value } of group) ranks.set(line, first.get(value)!);
  }
  return ranks;
}
