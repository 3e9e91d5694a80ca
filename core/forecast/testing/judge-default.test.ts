import { expect, it } from "vitest";
import { allKinds, gainOf, judgeByLength, judgeDefault, LENGTHS } from "./judge-default.ts";

it("the default choice is nearer than every single method, and its intervals hold about what they say, on the half it was not set on", () => {
  // A few series of each kind; the table over more of them is what the bench prints.
  const all = allKinds(judgeDefault("report", 1));
  expect(gainOf(all)).toBeGreaterThan(0);
  expect(all.held.narrow).toBeGreaterThan(0.7);
  expect(all.held.narrow).toBeLessThan(0.9);
  expect(all.held.wide).toBeGreaterThan(0.88);
});

it("no length of history makes it worse than the season before repeated, or than the best single method", () => {
  const rows = judgeByLength("report", 2);
  expect(rows).toHaveLength(LENGTHS.length);
  for (const row of rows) {
    expect([row.kind, row.mase["Hackle's choice"] < row.mase["Seasonal naive"]]).toEqual([row.kind, true]);
    expect([row.kind, gainOf(row) > 0]).toEqual([row.kind, true]);
  }
});
