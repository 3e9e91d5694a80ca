import { describe, expect, it } from "vitest";
import { kpiOf, OCTOBER, run } from "../../testing/small-company.ts";
import { questionOf } from "../../testing/small-question.ts";
import { outlookGap } from "./gap.ts";

/** April 2024 to October 2026: 10.00 in a month, 20.00 in each December. */
const facts = run(
  "actual",
  "bread",
  OCTOBER - 30,
  Array.from({ length: 31 }, (_, i) => ((OCTOBER - 30 + i - (OCTOBER + 2)) % 12 === 0 ? 2_000_000 : 1_000_000)),
);
const rest = [1, 2, 3, 4, 5].map((ahead) => OCTOBER + ahead);
const question = questionOf(facts);
const gapOf = (basis: number, key = "turnover", direction: "higher" | "lower" = "higher") => {
  const kpi = kpiOf(key);
  const own = { ...kpi, definition: { ...kpi.definition, direction } };
  const toDate = { value: 70_000 };
  return outlookGap(own, { toDate, basis: { value: basis }, basisName: "Budget", closed: 7, rest }, question);
};

describe("the gap to the year's basis", () => {
  it("is spread evenly, and as prior years spread over the same months", () => {
    const { needed, bySeason, words } = gapOf(130_000);
    expect(needed).toEqual({ value: 12_000 });
    expect(bySeason.map(({ month, needed: own }) => [month, own])).toEqual(
      ["2026-11", "2026-12", "2027-01", "2027-02", "2027-03"].map((month, i) => [
        month,
        { value: expect.closeTo(i === 1 ? 20_000 : 10_000, 6) as number },
      ]),
    );
    expect(words).toBe(
      "Each of the 5 months left needs € 12k to reach Budget; a year before, the same months brought € 12k each. " +
        "By season: November € 10k, December € 20k, January € 10k, February € 10k and March € 10k.",
    );
  });
  it("of what is better lower is what may be spent, and says when nothing is left of it", () => {
    expect(gapOf(130_000, "turnover", "lower").words).toContain(
      "Each of the 5 months left may take € 12k for the year to stay within Budget; a year before, the same months took",
    );
    expect(gapOf(60_000, "turnover", "lower").words).toBe(
      "Budget for the year is used up: € 10k over it, with 5 months left.",
    );
  });
  it("says when the basis is reached before the year is over", () => {
    expect(gapOf(60_000).words).toBe("Budget for the year is reached: € 10k above it, with 5 months left.");
  });
});
