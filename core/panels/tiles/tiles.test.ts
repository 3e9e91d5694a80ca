import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { daysInMonth, monthOf } from "../../calendar/month.ts";
import { absent, isPresent, present } from "../../figures/figure.ts";
import {
  contextOf,
  frameOf,
  kpiOf,
  NAMES,
  OCTOBER,
  run,
  valueOf,
  type SmallFact,
} from "../../testing/small-company.ts";
import { memberMessage, type MessageRow } from "../../words/message.ts";
import { tileFigureName } from "./words.ts";
import { attainmentOf, attainmentRank } from "../../compare/attainment.ts";
import type { TileFigureKind } from "./figure-kinds.ts";
import { tileFigure, tileKpi } from "./tile-figure.ts";
import type { Figure } from "../../figures/schema.ts";

const APRIL = monthOf(2025, 4);
/** 19 months: 10.00, 20.00 … ; the budget of the second year 150.00 a month. */
const BOOKS: SmallFact[] = [
  ...run(
    "actual",
    "bread",
    APRIL,
    Array.from({ length: 19 }, (_, i) => (i + 1) * 1000),
  ),
  ...run(
    "budget",
    "bread",
    APRIL + 12,
    Array.from({ length: 12 }, () => 15_000),
  ),
];
const NAMED = {
  ...NAMES,
  kpis: new Map([
    ["turnover", "sales"],
    ["margin", "(sales - cost) / sales"],
  ]),
};
const YTD = frameOf("year-to-date");
const tile = (kind: TileFigureKind, { kpi = "turnover", frame = YTD, facts = BOOKS } = {}) => {
  const { figure, variance, note } = tileFigure(
    kind,
    tileKpi(kpiOf(kpi), () => NAMED),
    frame,
    contextOf(facts),
  );
  return [valueOf(figure), valueOf(variance.delta), note];
};

describe("a tile's small figures", () => {
  it("are the month, the year to date and the prior year, each against what it is held against", () => {
    expect(tile("month")).toEqual([190, 40, ""]);
    expect(tile("year-to-date")).toEqual([1120, 70, ""]);
    // 10 … 70 of the year before; the actual stands 840 above it.
    expect(tile("prior-year")).toEqual([280, 840, ""]);
  });
  it("carry the pace on by the season where a year of it is there, else evenly, against the whole year", () => {
    const [pace, gap, note] = tile("run-rate-year");
    expect(pace).toBeCloseTo((1120 * 780) / 280, 8);
    expect(gap).toBeCloseTo((1120 * 780) / 280 - 1800, 8);
    expect(note).toBe("The pace so far, weighted by the season of the last year.");
    const thisYear = BOOKS.filter((f) => f.month >= APRIL + 12);
    const elapsed = Array.from({ length: 7 }, (_, i) => daysInMonth(APRIL + 12 + i)).reduce((a, b) => a + b);
    expect(tile("run-rate-year", { facts: thisYear })[0]).toBeCloseTo((1120 / elapsed) * 365, 8);
    expect(tile("run-rate-year", { facts: thisYear })[2]).toContain("evenly");
  });
  it("say why a rate has no pace, and hold no pace against part of a year", () => {
    expect(tile("run-rate-year", { kpi: "margin" })[0]).toBe("not covered");
    const gappy = BOOKS.filter((f) => f.scenario === "actual" || f.month < APRIL + 20);
    expect(tile("run-rate-year", { facts: gappy })[1]).toBe("not covered");
  });
  it("count last month to the same day, at most its length", () => {
    const day = (month: number, d: number, amount: number): SmallFact => ({
      ...run("actual", "loaves", month, [amount])[0]!,
      dataset: "daily",
      day: d,
    });
    const days = (month: number, to: number, amount: number) =>
      Array.from({ length: to }, (_, i) => day(month, i + 1, amount));
    const facts = [...days(OCTOBER, 31, 2), ...days(OCTOBER + 1, 17, 3)];
    const frame = { ...YTD, asOf: OCTOBER + 1 };
    const NAMES_OF_LOAVES = { ...NAMED, kpis: new Map([["output", "loaves"]]) };
    const at = (kind: TileFigureKind, within: SmallFact[], asOf = OCTOBER + 1) =>
      tileFigure(
        kind,
        tileKpi(kpiOf("output"), () => NAMES_OF_LOAVES),
        { ...frame, asOf },
        contextOf(within),
      );
    expect(valueOf(at("month-to-date", facts).figure)).toBe(51);
    expect(valueOf(at("same-day", facts).figure)).toBe(34);
    expect(valueOf(at("same-day", facts).variance.delta)).toBe(17);
    expect(valueOf(at("run-rate-month", facts).figure)).toBe(90);
    // 31 October against the 30 days that September has.
    const whole = [...days(OCTOBER - 1, 30, 2), ...days(OCTOBER, 31, 3)];
    expect(valueOf(at("same-day", whole, OCTOBER).figure)).toBe(60);
  });
  it("are named so that no span can be taken for another", () => {
    const name = (kind: TileFigureKind, asOf = OCTOBER + 1, day = 17) =>
      tileFigureName(kind, { startMonth: 4 }, asOf, day);
    expect(name("month")).toBe("November");
    expect(name("month-to-date")).toBe("1–17 November");
    expect(name("same-day")).toBe("1–17 October");
    expect(name("same-day", OCTOBER, 31)).toBe("1–30 September");
    expect(name("month-to-date", OCTOBER + 1, 31)).toBe("1–30 November");
    expect(name("run-rate-year")).toBe("Run rate, FY27");
    expect(name("year-to-date")).toBe("FY27 to date");
  });
});

describe("attainment", () => {
  const amounts = fc.integer({ min: -10_000, max: 10_000 }).map(present);
  it("is actual over basis, and nothing where the basis is not positive", () => {
    expect(attainmentOf(present(97), present(100))).toEqual(present(0.97));
    expect(valueOf(attainmentOf(present(97), present(0)))).toBe("no base");
    expect(valueOf(attainmentOf(present(97), present(-5)))).toBe("no base");
    expect(valueOf(attainmentOf(absent("not closed yet", ""), present(5)))).toBe("not closed yet");
  });
  it("ranks the better one higher, whichever way a KPI points", () => {
    fc.assert(
      fc.property(amounts, amounts, fc.integer({ min: 1, max: 9999 }).map(present), (a, b, basis) => {
        const rank = (x: Figure, direction: "higher" | "lower" | "closest") =>
          attainmentRank(attainmentOf(x, basis), direction)!;
        if (!isPresent(a) || !isPresent(b) || !isPresent(basis)) return;
        expect(Math.sign(rank(a, "higher") - rank(b, "higher"))).toBe(Math.sign(a.value - b.value));
        expect(Math.sign(rank(a, "lower") - rank(b, "lower"))).toBe(Math.sign(b.value - a.value));
        expect(rank(a, "closest")).toBeLessThanOrEqual(rank(basis, "closest"));
      }),
    );
    expect(attainmentRank(absent("no base", ""), "higher")).toBeNull();
  });
});

describe("the message of tiles", () => {
  const row = (name: string, delta: number, judgement: MessageRow["judgement"]): MessageRow => ({
    name,
    unit: { kind: "money" },
    decimals: 0,
    money: "units",
    basisName: "Budget",
    delta: present(delta),
    deltaPercent: present(delta / 100),
    judgement,
  });
  it("names who is furthest behind, and counts the others", () => {
    const rows = [row("Mill", -4, "unfavourable"), row("Gate", -9, "unfavourable"), row("Quay", 5, "favourable")];
    expect(memberMessage("Sales by shop", rows)).toBe(
      "Sales by shop: Gate is € 9 (9.0%) below Budget, unfavourable; 1 of 3 is favourable, 2 unfavourable.",
    );
    expect(memberMessage("Sales by shop", rows.slice(0, 2))).toContain("unfavourable, as both are.");
    expect(memberMessage("Sales by shop", rows.slice(2))).toBe(
      "Sales by shop: Quay is € 5 (5.0%) above Budget, favourable; none of 1 is unfavourable.",
    );
    expect(memberMessage("Sales by shop", [row("Mill", 0, "on plan")])).toContain("Mill is on plan against");
    expect(memberMessage("Sales by shop", [row("Mill", 0, null)])).toBe(
      "Sales by shop cannot be compared with Budget.",
    );
    expect(memberMessage("Sales by shop", [])).toContain("nothing to show");
  });
});
