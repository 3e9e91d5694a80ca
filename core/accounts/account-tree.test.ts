import { describe, expect, it } from "vitest";
import { ACCOUNTS, TREE } from "../testing/small-company.ts";
import { accountProblems, buildAccountTree } from "./account-tree.ts";

const [sales] = ACCOUNTS;

describe("the chart of accounts", () => {
  it("knows the leaves of every account, and a leaf as its own", () => {
    expect(TREE.leaves.get("sales")).toEqual(["bread", "cake"]);
    expect(TREE.leaves.get("bread")).toEqual(["bread"]);
    for (const [key, leaves] of TREE.leaves) expect(leaves.length, key).toBeGreaterThan(0);
  });
  it("names what is not sound", () => {
    expect(accountProblems([...ACCOUNTS, sales!])).toEqual(["An account key is used twice: keys must be unique."]);
    expect(accountProblems([{ ...sales!, parent: "nowhere" }])[0]).toContain('names the parent "nowhere"');
    expect(accountProblems([...ACCOUNTS, { ...sales!, key: "odd", parent: "till" }])[0]).toContain(
      "gather differently",
    );
    expect(
      accountProblems([
        { ...sales!, key: "a", parent: "b" },
        { ...sales!, key: "b", parent: "a" },
      ]).join(),
    ).toContain("its own ancestor");
  });
  it("is not built from a chart that is not sound", () => {
    expect(() => buildAccountTree([{ ...sales!, parent: "nowhere" }])).toThrow(RangeError);
  });
});
