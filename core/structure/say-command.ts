import type { TreeCommand, TreeItem } from "./tree-edit.ts";

/** A command in words, for the list of changes; `items` are as they were before it. */
export function sayCommand<T extends TreeItem & { readonly isRetired?: boolean }>(
  items: readonly T[],
  command: TreeCommand<T>,
): string {
  const name = (key: string | null) => items.find((item) => item.key === key)?.name ?? key ?? "the top";
  switch (command.do) {
    case "add":
      return `Added ${command.item.name}${command.item.parent === null ? "" : ` below ${name(command.item.parent)}`}`;
    case "move": {
      const from = items.find((item) => item.key === command.key);
      if (from && from.parent === command.parent)
        return `Moved ${from.name} within ${command.parent === null ? "the top level" : name(command.parent)}`;
      return `Moved ${name(command.key)} ${command.parent === null ? "to the top level" : `below ${name(command.parent)}`}`;
    }
    case "remove":
      return `Removed ${name(command.key)}`;
    case "change": {
      const was = items.find((item) => item.key === command.key);
      if (was && was.name !== command.item.name) return `Renamed ${was.name} to ${command.item.name}`;
      if (was && (was.isRetired ?? false) !== (command.item.isRetired ?? false))
        return `${command.item.isRetired ? "Retired" : "Restored"} ${command.item.name}`;
      return `Changed ${command.item.name}`;
    }
  }
}
