import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sayCommand } from "./say-command.ts";
import { diffRecords, reverseDiff } from "../history/records-diff.ts";
import { applyToTree, commandTree, depthFirst, treeRecords, type TreeCommand, type TreeItem } from "./tree-edit.ts";

const item = (key: string, parent: string | null = null): TreeItem => ({ key, name: key.toUpperCase(), parent });
const TREE = [item("costs"), item("crew", "costs"), item("fuel", "costs"), item("oil", "fuel"), item("income")];
const keys = (items: readonly TreeItem[]) => items.map((i) => i.key).join(" ");

/** Any tree of up to nine items, and a command that may or may not fit it. */
const tree = fc
  .array(fc.nat(8), { maxLength: 9 })
  .map((parents) => depthFirst(parents.map((p, i) => item(`k${i}`, p < i ? `k${p}` : null))));
const key = fc.nat(10).map((i) => `k${i}`);
const place = fc.option(key, { nil: null });
const command: fc.Arbitrary<TreeCommand<TreeItem>> = fc.oneof(
  fc.record({
    do: fc.constant("add" as const),
    item: fc.record({ key, name: fc.string(), parent: place }),
  }),
  fc.record({ do: fc.constant("move" as const), key, parent: place, before: place }),
  fc.record({ do: fc.constant("remove" as const), key }),
);

/** The items after a command; `undefined` when it is refused, which must be in words. */
function attempt(items: readonly TreeItem[], given: TreeCommand<TreeItem>): TreeItem[] | undefined {
  try {
    return commandTree(items, given);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    expect(error.message).toMatch(/\.$/);
    return undefined;
  }
}

describe("commands on a tree", () => {
  it("move an item with all below it, in front of another or to the end", () => {
    expect(keys(commandTree(TREE, { do: "move", key: "fuel", parent: null, before: "costs" }))).toBe(
      "fuel oil costs crew income",
    );
    expect(keys(commandTree(TREE, { do: "move", key: "crew", parent: "costs", before: null }))).toBe(
      "costs fuel oil crew income",
    );
  });
  it("are refused with the way out", () => {
    const refused = (given: TreeCommand<TreeItem>) => () => commandTree(TREE, given);
    expect(refused({ do: "move", key: "costs", parent: "oil", before: null })).toThrow("COSTS cannot go below itself.");
    expect(refused({ do: "remove", key: "fuel" })).toThrow("FUEL still has OIL below it. Move or remove that first.");
    expect(refused({ do: "add", item: item("oil") })).toThrow('The key "oil" is taken already. Choose another.');
    expect(refused({ do: "remove", key: "tea" })).toThrow('There is no "tea" here any more.');
    expect(refused({ do: "change", key: "oil", item: item("oil", "crew") })).toThrow("another parent is a move");
  });
  it("leave a tree whose parents stand before their children, nobody lost and nobody doubled", () => {
    fc.assert(
      fc.property(tree, command, (items, given) => {
        const after = attempt(items, given);
        fc.pre(after !== undefined);
        expect(keys(depthFirst(after))).toBe(keys(after));
        const before = new Set(items.map((i) => i.key));
        if (given.do === "add") before.add(given.item.key);
        if (given.do === "remove") before.delete(given.key);
        expect(new Set(after.map((i) => i.key))).toEqual(before);
        expect(after.length).toBe(before.size);
        for (const { parent } of after) expect(parent === null || before.has(parent)).toBe(true);
      }),
    );
  });
});

describe("a tree's records", () => {
  it("lead from one state to the other and back by their diff, whatever the commands", () => {
    fc.assert(
      fc.property(tree, fc.array(command, { maxLength: 6 }), (items, commands) => {
        const after = commands.reduce<TreeItem[]>((now, given) => attempt(now, given) ?? now, items);
        const diff = diffRecords(treeRecords(items, "t"), treeRecords(after, "t"));
        expect(applyToTree(items, diff, "t")).toEqual(after);
        expect(applyToTree(after, reverseDiff(diff), "t")).toEqual(items);
      }),
    );
  });
  it("keep what was added since where its place is not known", () => {
    const renamed = commandTree(TREE, { do: "move", key: "crew", parent: "costs", before: null });
    const back = reverseDiff(diffRecords(treeRecords(TREE, "t"), treeRecords(renamed, "t")));
    const later = commandTree(renamed, { do: "add", item: item("tugs", "costs") });
    expect(keys(applyToTree(later, back, "t"))).toBe("costs crew fuel oil tugs income");
  });
});

describe("a change in words", () => {
  it("names the thing and its place", () => {
    const say = (given: TreeCommand<TreeItem & { isRetired?: boolean }>) => sayCommand(TREE, given);
    expect(say({ do: "add", item: item("tugs", "costs") })).toBe("Added TUGS below COSTS");
    expect(say({ do: "move", key: "oil", parent: null, before: null })).toBe("Moved OIL to the top level");
    expect(say({ do: "move", key: "crew", parent: "costs", before: null })).toBe("Moved CREW within COSTS");
    expect(say({ do: "change", key: "oil", item: { ...item("oil", "fuel"), name: "Lubricants" } })).toBe(
      "Renamed OIL to Lubricants",
    );
    expect(say({ do: "change", key: "oil", item: { ...item("oil", "fuel"), isRetired: true } })).toBe("Retired OIL");
  });
});
