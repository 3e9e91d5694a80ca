import { describe, expect, it } from "vitest";
import type { Structure } from "#server/db/structure.ts";
import { KeptAnswers, keptAnswers } from "./kept-answers.ts";

describe("kept answers", () => {
  it("let those go first that were not asked for longest", () => {
    const kept = new KeptAnswers(12);
    kept.set("a", "aaaa");
    kept.set("b", "bbbb");
    kept.set("c", "cccc");
    expect(kept.get("a")).toBe("aaaa");
    kept.set("d", "dddd");
    expect(["a", "b", "c", "d"].map((question) => kept.get(question))).toEqual(["aaaa", undefined, "cccc", "dddd"]);
  });
  it("count an answer once, however often it is given, and keep none that is larger than all may be", () => {
    const kept = new KeptAnswers(10);
    for (let i = 0; i < 5; i += 1) kept.set("a", "aaaa");
    kept.set("b", "bbbbbb");
    expect([kept.get("a"), kept.get("b")]).toEqual(["aaaa", "bbbbbb"]);
    kept.set("c", "c".repeat(11));
    expect(["a", "b", "c"].map((question) => kept.get(question))).toEqual([undefined, undefined, undefined]);
    kept.set("d", "d");
    expect(kept.get("d")).toBe("d");
  });
  it("belong to one state of the data", () => {
    const [before, after] = [{ ground: {} }, { ground: {} }] as Structure[];
    keptAnswers(before!).set("a", "then");
    expect(keptAnswers(before!).get("a")).toBe("then");
    expect(keptAnswers(after!).get("a")).toBeUndefined();
  });
});
