import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { SHOPS } from "../testing/small-company.ts";
import { memberDepth } from "./dimension.ts";
import { emptyScopeAbsence } from "./empty-scope.ts";
import { intersectScopes, scopeName } from "./scope.ts";
import { withDescendants } from "./member-tree.ts";

const members = fc.subarray(SHOPS.members.map((m) => m.key));

describe("scopes", () => {
  it("let through just what both let through", () => {
    fc.assert(
      fc.property(members, members, (a, b) => {
        const both = intersectScopes([SHOPS], { shop: a }, { shop: b })["shop"]!;
        const inside = (chosen: readonly string[]) => new Set(withDescendants(SHOPS, chosen));
        for (const m of SHOPS.members)
          expect(inside(both).has(m.key)).toBe(inside(a).has(m.key) && inside(b).has(m.key));
      }),
    );
  });
  it("are not narrowed by everything", () => {
    fc.assert(
      fc.property(members, (a) => {
        expect(intersectScopes([SHOPS], { shop: a }, {})).toEqual({ shop: a });
      }),
    );
  });
  it("tell an empty choice from one outside the reader's access", () => {
    expect(emptyScopeAbsence([SHOPS], { shop: [] }, { shop: [] })).toMatchObject({ absent: "no data" });
    expect(emptyScopeAbsence([SHOPS], { shop: ["mill"] }, { shop: [] })).toMatchObject({ absent: "no access" });
    expect(emptyScopeAbsence([SHOPS], {}, { shop: ["mill"] })).toBeUndefined();
  });
  it("have names", () => {
    expect(scopeName([SHOPS], {}, "all shops")).toBe("all shops");
    expect(scopeName([SHOPS], { shop: ["mill", "quay"] }, "")).toBe("Mill and Quay");
    expect(scopeName([SHOPS], { shop: ["mill", "quay", "gate"] }, "")).toBe("3 of the shops");
  });
  it("know how deep a member lies", () => {
    expect(["north", "mill", "atlantis"].map((m) => memberDepth(SHOPS, m))).toEqual([1, 2, 0]);
  });
});
