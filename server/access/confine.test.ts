import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { withDescendants, type Dimension } from "#core/dimensions/dimension.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { FactSource } from "#server/engine/fact-source.ts";
import { confineScope, confineSource, visibleDimensions } from "./confine.ts";

const ROUTES: Dimension = {
  key: "route",
  name: "Route",
  plural: "routes",
  levels: ["Area", "Route"],
  members: [
    { key: "north", name: "North", parent: null },
    { key: "n1", name: "N1", parent: "north" },
    { key: "n2", name: "N2", parent: "north" },
    { key: "south", name: "South", parent: null },
    { key: "s1", name: "S1", parent: "south" },
  ],
};
const chosen = fc.option(fc.subarray(ROUTES.members.map((m) => m.key)), { nil: undefined });
const scopeOf = (members: string[] | undefined): Scope => (members ? { route: members } : {});

describe("row access", () => {
  it("never lets a query out of the reader's scope, whatever is asked", async () => {
    await fc.assert(
      fc.asyncProperty(chosen, chosen, async (asked, own) => {
        const seen: Scope[] = [];
        const source: FactSource = {
          cells: (query) => {
            seen.push(query.scope);
            return Promise.resolve([]);
          },
          lines: (query) => {
            seen.push(query.scope);
            return Promise.resolve({ total: 0, sum: 0, lines: [] });
          },
        };
        const confined = confineSource(source, [ROUTES], scopeOf(own));
        await confined.cells({ accounts: [], windows: [], scope: scopeOf(asked) });
        await confined.lines({
          scenario: "actual",
          accounts: [],
          months: [],
          scope: scopeOf(asked),
          offset: 0,
          limit: 1,
        });
        for (const scope of seen) {
          if (own) expect(scope["route"]).toBeDefined();
          const allowed = new Set(own ? withDescendants(ROUTES, own) : ROUTES.members.map((m) => m.key));
          for (const member of withDescendants(ROUTES, scope["route"] ?? [])) expect(allowed.has(member)).toBe(true);
        }
      }),
    );
  });
  it("tells what lies outside from what was not chosen", () => {
    expect(confineScope([ROUTES], { route: ["south"] }, { route: ["north"] }).absence).toMatchObject({
      absent: "no access",
    });
    expect(confineScope([ROUTES], { route: [] }, { route: ["north"] }).absence).toMatchObject({ absent: "no data" });
    expect(confineScope([ROUTES], { route: ["north", "s1"] }, { route: ["n1"] })).toEqual({
      scope: { route: ["n1"] },
      absence: undefined,
    });
  });
  it("shows only the reader's own members, each with a parent that is there", () => {
    expect(visibleDimensions([ROUTES], { route: ["n2"] })[0]!.members).toEqual([
      { key: "n2", name: "N2", parent: null },
    ]);
    expect(visibleDimensions([ROUTES], {})[0]).toBe(ROUTES);
  });
});
