import { expect, test } from "vitest";
import { standingChanges, type Standing } from "./standing.ts";

const at = (kpi: string, rank: number, span: Standing["span"] = "month"): Standing => ({
  kpi,
  span,
  rank,
  word: ["unfavourable", "on plan", "favourable"][rank]!,
});

test("only what turned is told, the largest turns first, and each says which way", () => {
  const before = [at("revenue", 2), at("fuel", 1), at("crew", 0), at("gone", 2), at("fuel", 0, "year-to-date")];
  const after = [at("revenue", 1), at("fuel", 1), at("crew", 2), at("new", 0), at("fuel", 0, "year-to-date")];
  expect(standingChanges(before, after)).toEqual([
    { kpi: "crew", span: "month", from: "unfavourable", to: "favourable", isBetter: true },
    { kpi: "revenue", span: "month", from: "favourable", to: "on plan", isBetter: false },
  ]);
  expect(standingChanges(after, after)).toEqual([]);
});
