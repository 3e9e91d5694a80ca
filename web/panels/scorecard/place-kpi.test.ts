import { describe, expect, it } from "vitest";
import { placeKpi } from "./place-kpi.ts";

const groups = [
  { title: "One", kpis: ["a", "b", "c"] },
  { title: "Two", kpis: ["d"] },
];
const keys = (kpi: string, onto: string) => placeKpi(groups, kpi, onto).map((group) => group.kpis.join(""));

describe("a row dragged onto another", () => {
  it("takes its place, within its group and in another", () => {
    expect(keys("a", "c")).toEqual(["bca", "d"]);
    expect(keys("c", "a")).toEqual(["cab", "d"]);
    expect(keys("b", "d")).toEqual(["ac", "bd"]);
    expect(keys("d", "b")).toEqual(["adbc", ""]);
    expect(keys("x", "b")).toEqual(["abc", "d"]);
  });
});
