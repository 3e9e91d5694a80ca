import { getOrCreate } from "../collections/keyed.ts";
import { applyDiff, type Records, type RecordsDiff } from "../history/records-diff.ts";

/** Something with a place in a tree: an account, or a member of a dimension. */
export interface TreeItem {
  readonly key: string;
  readonly name: string;
  readonly parent: string | null;
}

/** What can be done to a tree. */
export type TreeCommand<T extends TreeItem> =
  | { readonly do: "add"; readonly item: T }
  | { readonly do: "change"; readonly key: string; readonly item: T }
  /** To be a child of `parent`, in front of `before`; last when `null`. */
  | { readonly do: "move"; readonly key: string; readonly parent: string | null; readonly before: string | null }
  | { readonly do: "remove"; readonly key: string };

/** The items after a command, in depth-first order. Throws a `RangeError` that says what is wrong with it. */
export function commandTree<T extends TreeItem>(items: readonly T[], command: TreeCommand<T>): T[] {
  const find = (key: string): T => {
    const found = items.find((item) => item.key === key);
    if (!found) throw new RangeError(`There is no "${key}" here any more. Reload the page and try again.`);
    return found;
  };
  switch (command.do) {
    case "add": {
      if (items.some((item) => item.key === command.item.key))
        throw new RangeError(`The key "${command.item.key}" is taken already. Choose another.`);
      if (command.item.parent !== null) find(command.item.parent);
      return depthFirst([...items, command.item]);
    }
    case "change": {
      const before = find(command.key);
      if (command.item.key !== before.key || command.item.parent !== before.parent)
        throw new RangeError("A key stays as it is, and another parent is a move.");
      return items.map((item) => (item === before ? command.item : item));
    }
    case "move": {
      const moved = find(command.key);
      if (command.parent !== null && isInside(items, command.parent, command.key))
        throw new RangeError(`${moved.name} cannot go below itself.`);
      if (command.parent !== null) find(command.parent);
      const rest = items.filter((item) => item !== moved);
      const at = command.before === null ? rest.length : rest.findIndex((item) => item.key === command.before);
      if (at < 0) throw new RangeError(`There is no "${command.before}" here any more. Reload the page and try again.`);
      return depthFirst(rest.toSpliced(at, 0, { ...moved, parent: command.parent }));
    }
    case "remove": {
      const gone = find(command.key);
      const child = items.find((item) => item.parent === gone.key);
      if (child) throw new RangeError(`${gone.name} still has ${child.name} below it. Move or remove that first.`);
      return items.filter((item) => item !== gone);
    }
  }
}

/** Parents before their children, siblings in the order in which they come. */
export function depthFirst<T extends TreeItem>(items: readonly T[]): T[] {
  const children = new Map<string | null, T[]>();
  for (const item of items) getOrCreate(children, item.parent, (): T[] => []).push(item);
  const keys = new Set(items.map((item) => item.key));
  const walk = (item: T): T[] => [item, ...(children.get(item.key) ?? []).flatMap(walk)];
  // An item whose parent is not there stands at the top, rather than nowhere.
  return items.filter((item) => item.parent === null || !keys.has(item.parent)).flatMap(walk);
}

/** The items of a tree as records under a prefix, with their order as one record more. */
export function treeRecords<T extends TreeItem>(items: readonly T[], prefix: string): Records {
  const keys = items.map((item) => item.key);
  return { ...Object.fromEntries(items.map((item) => [`${prefix}/${item.key}`, item])), [orderName(prefix)]: keys };
}

/** The name of the record that holds the order of a tree's items. */
export function orderName(prefix: string): string {
  return `order/${prefix}`;
}

/** The items after a diff of their records, which must fit them; the order as far as it is known there. */
export function applyToTree<T extends TreeItem>(items: readonly T[], diff: RecordsDiff, prefix: string): T[] {
  const after = applyDiff(treeRecords(items, prefix), diff);
  const order = new Map((after[orderName(prefix)] as readonly string[]).map((key, i) => [key, i]));
  const left = Object.entries(after).flatMap(([name, item]) => (name.startsWith(`${prefix}/`) ? [item as T] : []));
  return depthFirst(left.sort((a, b) => (order.get(a.key) ?? Infinity) - (order.get(b.key) ?? Infinity)));
}

function isInside(items: readonly TreeItem[], key: string, top: string): boolean {
  const byKey = new Map(items.map((item) => [item.key, item]));
  for (let at = byKey.get(key); at; at = at.parent === null ? undefined : byKey.get(at.parent))
    if (at.key === top) return true;
  return false;
}
