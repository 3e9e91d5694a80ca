import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Scope } from "#core/dimensions/scope.ts";
import { SHOPS } from "#core/testing/small-company.ts";
import type { FactSource } from "./fact-source.ts";
import { confineScope, visibleDimensions } from "#core/dimensions/confine.ts";
import { confineSource } from "./confine-source.ts";
import { withDescendants } from "#core/dimensions/member-tree.ts";

const chosen = fc.option(fc.subarray(SHOPS.members.map((m) => m.key)), { nil: undefined });
const scopeOf = (members: string[] | undefined): Scope => (members ? { shop: members } : {});

describe("row access", () => {
  it("never lets a query out of the reader's scope, whatever is asked", async () => {
    await fc.assert(
      fc.asyncProperty(chosen, chosen, async (asked, own) => {
        const seen: Scope[] = [];
        const source: FactSource = {
          pages: (queries) => {
            seen.push(...queries.map((query) => query.scope));
            return Promise.resolve(queries.map((query) => ({ query, grids: [] })));
          },
          lines: (query) => {
            seen.push(query.scope);
            return Promise.resolve({ total: 0, sum: 0, lines: [] });
          },
          facts: async function* (query) {
            seen.push(query.scope);
            yield* await Promise.resolve([]);
          },
        };
        const confined = confineSource(source, [SHOPS], scopeOf(own));
        const [page] = await confined.pages([{ accounts: [], windows: [], scope: scopeOf(asked) }]);
        // The page answers what was asked; that less was read is nothing the asker sees.
        expect(page!.query.scope).toEqual(scopeOf(asked));
        for await (const fact of confined.facts({
          dataset: "",
          scenarios: [],
          from: null,
          to: null,
          scope: scopeOf(asked),
        }))
          void fact;
        await confined.lines({
          places: [{ scenario: "actual", months: [] }],
          accounts: [],
          scope: scopeOf(asked),
          offset: 0,
          limit: 1,
        });
        for (const scope of seen) {
          if (own) expect(scope["shop"]).toBeDefined();
          const allowed = new Set(own ? withDescendants(SHOPS, own) : SHOPS.members.map((m) => m.key));
          for (const member of withDescendants(SHOPS, scope["shop"] ?? [])) expect(allowed.has(member)).toBe(true);
        }
      }),
    );
  });
  it("tells what lies outside from what was not chosen", () => {
    expect(confineScope([SHOPS], { shop: ["south"] }, { shop: ["north"] }).absence).toMatchObject({
      absent: "no access",
    });
    expect(confineScope([SHOPS], { shop: [] }, { shop: ["north"] }).absence).toMatchObject({ absent: "no data" });
    expect(confineScope([SHOPS], { shop: ["north", "quay"] }, { shop: ["mill"] })).toEqual({
      scope: { shop: ["mill"] },
      absence: undefined,
    });
  });
  it("shows only the reader's own members, each with a parent that is there", () => {
    expect(visibleDimensions([SHOPS], { shop: ["gate"] })[0]!.members).toEqual([
      { key: "gate", name: "Gate", parent: null },
    ]);
    expect(visibleDimensions([SHOPS], {})[0]).toBe(SHOPS);
  });
});
