import { describe, expect, it } from "vitest";
import { countryCode } from "./country-code.ts";

describe("the country of a member", () => {
  const dimension = {
    key: "market",
    name: "Market",
    plural: "markets",
    levels: ["Market"],
    members: [
      { key: "de", name: "Germany", parent: null },
      { key: "m1", name: "Norway", parent: null, attributes: { Manager: "FR", "Country code": "nor" } },
      { key: "elsewhere", name: "Elsewhere", parent: null, attributes: { iso: "??" } },
    ],
  };
  it("is found by a code that it carries, or by its key, and is none where there is no such code", () => {
    expect(["de", "m1", "elsewhere", "nobody"].map((key) => countryCode(dimension, key))).toEqual([
      "276",
      "578",
      null,
      null,
    ]);
  });
});
