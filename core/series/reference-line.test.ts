import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { contextOf, frameOf, kpiOf, run, valueOf, type SmallFact } from "../testing/small-company.ts";
import type { ReferenceLine } from "./reference-kinds.ts";
import { placeReference } from "./reference-line.ts";

const APRIL = monthOf(2025, 4);
/** 19 months: 10.00, 20.00 … in bread, 5.00 in flour; a budget of 150.00 a month for the second year. */
const BOOKS: SmallFact[] = [
  ...run(
    "actual",
    "bread",
    APRIL,
    Array.from({ length: 19 }, (_, i) => (i + 1) * 1000),
  ),
  ...run("actual", "flour", APRIL, Array<number>(19).fill(500)),
  ...run("budget", "bread", APRIL + 12, Array<number>(12).fill(15_000)),
];
type Statistic = Extract<ReferenceLine, { kind: "statistic" }>;
const line = (of: Statistic["of"], over: Statistic["over"], side: Statistic["side"] = "actual"): ReferenceLine => ({
  kind: "statistic",
  of,
  over,
  side,
});
const place = (reference: ReferenceLine, kpi = kpiOf("turnover"), span = "quarter-to-date") => {
  const { name, figure } = placeReference(reference, kpi, frameOf(span), contextOf(BOOKS));
  return [name, valueOf(figure)];
};

describe("a reference line", () => {
  it("is a statistic of the months of its period, as far as they are closed, and says which", () => {
    expect(place(line("average", "last-year"))).toEqual(["Average, April–March FY26", 65]);
    expect(place(line("median", "last-year"))).toEqual(["Median, April–March FY26", 65]);
    expect(place(line("median", "this-year"))).toEqual(["Median, April–October FY27", 160]);
    expect(place(line("lowest", "this-year"))).toEqual(["Lowest, April–October FY27", 130]);
    expect(place(line("highest", "this-year"))).toEqual(["Highest, April–October FY27", 190]);
    expect(place(line("average", "span"))).toEqual(["Average, October FY27", 190]);
    expect(place(line("average", "this-year", "budget"))).toEqual(["Average of Budget, April–October FY27", 150]);
  });
  it("of a rate is the rate of the period, not a mean of its months", () => {
    const [, margin] = place(line("average", "last-year"), kpiOf("margin"));
    expect(margin).toBe((780 - 60) / 780);
  });
  it("says that there is nothing rather than standing at zero", () => {
    expect(place(line("average", "year-before-last"))[1]).toBe("no data");
    expect(place(line("average", "this-year", "target"))[1]).toBe("not covered");
    expect(place({ kind: "constant", value: 12.5, name: "Break-even" })).toEqual(["Break-even", 12.5]);
  });
});
