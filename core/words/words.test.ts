import { countOf } from "../formats/count-words.ts";
import { describe, expect, it } from "vitest";
import { absent, present } from "../figures/figure.ts";
import { monthOf } from "../calendar/month.ts";
import { spanWords } from "./frame-words.ts";
import { scorecardMessage, type MessageRow } from "./message.ts";
import {
  deltaStyle,
  formatNumber,
  valueStyle,
  writePercent,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
} from "../formats/number-words.ts";
import { nameInUnit } from "./name-in-unit.ts";
import { isOrAre } from "../formats/verb.ts";
import { varianceWords } from "./variance-words.ts";

const money = valueStyle({ kind: "money" }, 0, "thousand");

describe("numbers in words", () => {
  it("group thousands, use a true minus and never write −0", () => {
    expect(formatNumber(-1234567.891, 2)).toBe("−1,234,567.89");
    expect(formatNumber(-0.001, 2)).toBe("0.00");
    expect(formatNumber(999.995, 2)).toBe("1,000.00");
  });
  it("carry their unit where they stand alone", () => {
    expect(writeWithUnit(-212_400, money)).toBe("−€ 212k");
    expect(writeSigned(212_400, money)).toBe("+€ 212k");
    expect(writeSigned(0.2, money)).toBe("€ 0k");
    expect(writeWithUnit(1_234_567, valueStyle({ kind: "money", decimals: 2 }, 0, "thousand"))).toBe("€ 1,234.57k");
    expect(writeWithUnit(0.0861, valueStyle({ kind: "percent" }, 1, "units"))).toBe("8.6%");
    expect(writeSigned(-0.005, deltaStyle({ kind: "percent" }, 1, "units"))).toBe("−0.5 pts");
    expect(writePercent(0.034)).toBe("3.4%");
    expect([0.034, -0.0052, 0.0004, -0.0004].map(writeSignedPercent)).toEqual(["+3.4%", "−0.5%", "0.0%", "0.0%"]);
  });
});

describe("variance in words", () => {
  const base = { unit: { kind: "money" }, decimals: 0, money: "thousand", basisName: "Budget" } as const;
  it("says what the numbers say", () => {
    expect(
      varianceWords({ ...base, delta: present(-212_000), deltaPercent: present(-0.034), judgement: "unfavourable" }),
    ).toBe("€ 212k (3.4%) below Budget, unfavourable");
    expect(
      varianceWords({
        ...base,
        unit: { kind: "percent" },
        decimals: 1,
        delta: present(-0.003),
        deltaPercent: present(-0.034),
        judgement: "unfavourable",
      }),
    ).toBe("0.3 pts below Budget, unfavourable");
    expect(
      varianceWords({
        ...base,
        delta: absent("no base", "There is no budget."),
        deltaPercent: absent("no base", ""),
        judgement: null,
      }),
    ).toBe("not compared with Budget: There is no budget.");
  });
  it("go to a smaller unit of money where theirs would write a zero", () => {
    const small = { ...base, deltaPercent: present(0.002), judgement: "on plan" } as const;
    expect(varianceWords({ ...small, money: "million", delta: present(4_812) })).toBe(
      "€ 5k (0.2%) above Budget, on plan",
    );
    expect(varianceWords({ ...small, delta: present(-140.4) })).toBe("€ 140 (0.2%) below Budget, on plan");
    expect(varianceWords({ ...small, delta: present(0.2) })).toBe("less than € 1 (0.2%) above Budget, on plan");
  });
  it("agrees with the name in number", () => {
    expect(
      ["Revenue", "Operating costs", "Passengers", "Gross loss", "Fuel", "Status", "Receivables "].map(isOrAre),
    ).toEqual(["is", "are", "are", "is", "is", "is", "are"]);
  });
  it("drafts a message from the scorecard's own figures", () => {
    const row = (name: string, delta: number, judgement: MessageRow["judgement"]): MessageRow => ({
      ...base,
      name,
      delta: present(delta),
      deltaPercent: present(delta / 1e7),
      judgement,
    });
    expect(
      scorecardMessage([
        row("Revenue", 2e6, "favourable"),
        row("Fuel", 1e6, "unfavourable"),
        row("Crew", 2e5, "unfavourable"),
      ]),
    ).toBe(
      "Revenue is € 2,000k (20.0%) above Budget, favourable, but fuel is € 1,000k (10.0%) above Budget, unfavourable.",
    );
    expect(scorecardMessage([{ ...row("Revenue", 0, null), delta: absent("no base", "No budget.") }])).toBe(
      "Nothing on this page can be compared with Budget. No budget.",
    );
    expect(scorecardMessage([])).toBe("There are no KPIs on this page.");
  });
});

describe("spans in words", () => {
  const calendar = { startMonth: 4 };
  it("cannot be taken for another span", () => {
    const october = monthOf(2026, 10);
    expect(spanWords(calendar, { kind: "year-to-date" }, october)).toBe("year to date, April–October FY27");
    expect(spanWords(calendar, { kind: "month-to-date" }, october + 1, 17)).toBe("1–17 November FY27");
    expect(spanWords(calendar, { kind: "trailing", periods: 12 }, october)).toBe(
      "trailing twelve months, November FY26–October FY27",
    );
  });
});

describe("counts", () => {
  it("are in the singular for one, and in words for none", () => {
    expect([0, 1, 2, 12_345].map((n) => countOf(n, "row"))).toEqual(["no rows", "1 row", "2 rows", "12,345 rows"]);
    expect(countOf(2, "entry", "entries")).toBe("2 entries");
  });
});

describe("a KPI with its unit", () => {
  const named = (name: string, unit: Parameters<typeof nameInUnit>[0]["unit"]) =>
    nameInUnit({ name, unit, decimals: 0 }, "thousand");
  it("says the unit unless the name says it already", () => {
    expect(named("Revenue", { kind: "money" })).toBe("Revenue in € thousand");
    expect(named("Passengers carried", { kind: "count", of: "passengers" })).toBe("Passengers carried");
    expect(named("Complaints", { kind: "ratio", of: "per 10,000" })).toBe("Complaints per 10,000");
  });
});
