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

/** The difference between two states of a tree: enough to apply it, and to take it back. */
export interface TreeEdit<T extends TreeItem> {
  readonly added: readonly T[];
  readonly changed: readonly { readonly from: T; readonly to: T }[];
  readonly removed: readonly T[];
  /** Keys in order, where the order of those that stay changed or items came or went. */
  readonly order: { readonly from: readonly string[]; readonly to: readonly string[] } | null;
}

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
  for (const item of items) children.set(item.parent, [...(children.get(item.parent) ?? []), item]);
  const keys = new Set(items.map((item) => item.key));
  const walk = (item: T): T[] => [item, ...(children.get(item.key) ?? []).flatMap(walk)];
  // An item whose parent is not there stands at the top, rather than nowhere.
  return items.filter((item) => item.parent === null || !keys.has(item.parent)).flatMap(walk);
}

/** What changed between two states. */
export function diffTree<T extends TreeItem>(before: readonly T[], after: readonly T[]): TreeEdit<T> {
  const was = new Map(before.map((item) => [item.key, item]));
  const is = new Map(after.map((item) => [item.key, item]));
  const from = before.map((item) => item.key);
  const to = after.map((item) => item.key);
  return {
    added: after.filter((item) => !was.has(item.key)),
    changed: after.flatMap((item) => {
      const own = was.get(item.key);
      return own && JSON.stringify(sorted(own)) !== JSON.stringify(sorted(item)) ? [{ from: own, to: item }] : [];
    }),
    removed: before.filter((item) => !is.has(item.key)),
    order: from.length === to.length && from.every((key, i) => key === to[i]) ? null : { from, to },
  };
}

/** The edit that takes this one back. */
export function reverseEdit<T extends TreeItem>(edit: TreeEdit<T>): TreeEdit<T> {
  return {
    added: edit.removed,
    changed: edit.changed.map(({ from, to }) => ({ from: to, to: from })),
    removed: edit.added,
    order: edit.order && { from: edit.order.to, to: edit.order.from },
  };
}

/** The state after an edit. Throws a `RangeError` when what it changes is not as it was. */
export function applyEdit<T extends TreeItem>(items: readonly T[], edit: TreeEdit<T>): T[] {
  const byKey = new Map(items.map((item) => [item.key, item]));
  for (const gone of edit.removed)
    if (!byKey.delete(gone.key)) throw new RangeError(`${gone.name} is not there any more.`);
  for (const { from, to } of edit.changed) {
    const now = byKey.get(from.key);
    if (!now || JSON.stringify(sorted(now)) !== JSON.stringify(sorted(from)))
      throw new RangeError(`${from.name} was changed since. Take back the later change first.`);
    byKey.set(to.key, to);
  }
  for (const item of edit.added) {
    if (byKey.has(item.key)) throw new RangeError(`${item.name} is there already.`);
    byKey.set(item.key, item);
  }
  const order = new Map((edit.order?.to ?? [...byKey.keys()]).map((key, i) => [key, i]));
  return depthFirst(
    [...byKey.values()].sort((a, b) => (order.get(a.key) ?? Infinity) - (order.get(b.key) ?? Infinity)),
  );
}

/** Whether nothing changed. */
export function isEmptyEdit<T extends TreeItem>(edit: TreeEdit<T>): boolean {
  return edit.added.length + edit.changed.length + edit.removed.length === 0 && edit.order === null;
}

function isInside(items: readonly TreeItem[], key: string, top: string): boolean {
  const byKey = new Map(items.map((item) => [item.key, item]));
  for (let at = byKey.get(key); at; at = at.parent === null ? undefined : byKey.get(at.parent))
    if (at.key === top) return true;
  return false;
}

function sorted(item: object): [string, unknown][] {
  return Object.entries(item)
    .filter(([, value]) => value !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
}
