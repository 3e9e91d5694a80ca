import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { formatScope, parseScope } from "./scope-text.ts";

describe("a scope in an address", () => {
  const key = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/);
  it("is read as it was written, in whatever order", () => {
    fc.assert(
      fc.property(fc.dictionary(key, fc.uniqueArray(key, { maxLength: 4 }), { noNullPrototype: true }), (scope) => {
        const read = parseScope(formatScope(scope));
        expect(Object.fromEntries(Object.entries(read!).map(([k, m]) => [k, [...m].sort()]))).toEqual(
          Object.fromEntries(Object.entries(scope).map(([k, m]) => [k, [...m].sort()])),
        );
        expect(formatScope(read!)).toBe(formatScope(scope));
      }),
    );
  });
  it("is refused when it is written otherwise", () => {
    expect(
      ["route", "route=a", "Route:a", "route:a b", "route:a;;vessel", "<script>"].map((t) => parseScope(t)),
    ).toEqual(Array(6).fill(undefined));
    expect(parseScope("")).toEqual({});
    expect(parseScope("route:")).toEqual({ route: [] });
  });
});
