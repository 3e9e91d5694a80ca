import { describe, expect, it } from "vitest";
import { MemoryBudget, type MemoryOwner } from "./memory-budget.ts";

function setting() {
  let now = 0;
  const budget = new MemoryBudget(100, () => now);
  const gone: string[] = [];
  const owner = (name: string): MemoryOwner & { usedAt: number } => ({
    usedAt: now,
    letGo: () => void gone.push(name),
  });
  return { budget, gone, owner, pass: (ms: number) => void (now += ms), at: () => now };
}

describe("one budget of memory for all companies", () => {
  it("gives each what is free, and more in the place of what it had", () => {
    const { budget, owner } = setting();
    const [a, b] = [owner("a"), owner("b")];
    expect([budget.take(a, 60), budget.take(b, 60), budget.take(b, 40)]).toEqual([true, false, true]);
    expect([budget.take(a, 61), budget.take(a, 20), budget.take(b, 80)]).toEqual([false, true, true]);
    budget.giveBack(a);
    expect(budget.take(b, 100)).toBe(true);
  });
  it("takes from who was not asked for longest, and from nobody who is in use", () => {
    const { budget, gone, owner, pass, at } = setting();
    const [a, b, c] = [owner("a"), owner("b"), owner("c")];
    for (const one of [a, b]) budget.take(one, 50);
    pass(70_000);
    b.usedAt = at();
    expect([budget.take(c, 60), gone]).toEqual([false, []]);
    c.usedAt = at();
    expect([budget.take(c, 50), gone]).toEqual([true, ["a"]]);
    pass(70_000);
    expect([budget.take(a, 100), gone]).toEqual([true, ["a", "b", "c"]]);
  });
  it("refuses what is more than all of it", () => {
    const { budget, gone, owner, pass } = setting();
    budget.take(owner("a"), 10);
    pass(1e9);
    expect([budget.take(owner("b"), 101), gone]).toEqual([false, []]);
  });
});
