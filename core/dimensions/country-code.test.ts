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
  it("is found by its name in the languages that files come in, however it is written", () => {
    const named = (name: string) => countryCode({ ...dimension, members: [{ key: "m", name, parent: null }] }, "m");
    expect(["France", "Deutschland", "FRA", "the netherlands", "ITALIË", "Großbritannien"].map(named)).toEqual([
      "250",
      "276",
      "250",
      "528",
      "380",
      "826",
    ]);
    expect(["España", "espana", "Sverige", "Norja", "Niemcy", "U.S.A.", "Turkey", "Côte d’Ivoire"].map(named)).toEqual([
      "724",
      "724",
      "752",
      "578",
      "276",
      "840",
      "792",
      "384",
    ]);
    expect(["North", "Wholesale", "Route 12", "IT", ""].map(named)).toEqual([null, null, null, null, null]);
  });
});
