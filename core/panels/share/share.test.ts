import { describe, expect, it } from "vitest";
import type { KpiRow } from "../parts/kpi-row.ts";
import type { SharePart } from "./compute.ts";
import { leftWords, shareHeadline } from "./words.ts";

const row = (delta: number, direction: "higher" | "lower" = "higher"): KpiRow =>
  ({
    kpi: { unit: { kind: "money" }, decimals: 0, direction },
    basisName: "Budget",
    variance: {
      delta: { value: delta },
      judgement: delta < 0 === (direction === "higher") ? "unfavourable" : "favourable",
    },
    attainment: { value: 1 },
  }) as unknown as KpiRow;
const part = (name: string, share: number, delta = 0): SharePart => ({
  member: null,
  name,
  row: row(delta),
  share: { value: share },
  left: leftWords(row(delta), "thousand"),
  at: 0,
});

describe("shares in words", () => {
  it("say what is left to the basis, whichever way is wanted", () => {
    expect(leftWords(row(-120_000), "thousand")).toBe("€ 120k left to Budget");
    expect(leftWords(row(20_000), "thousand")).toBe("€ 20k above Budget");
    expect(leftWords(row(20_000, "lower"), "thousand")).toBe("€ 20k over Budget");
    expect(leftWords(row(-20_000, "lower"), "thousand")).toBe("€ 20k to spare");
    expect(leftWords(row(0), "thousand")).toBe("exactly Budget");
  });
  it("tell who makes most, and how many reach what they are to reach", () => {
    const parts = [part("North", 0.5), part("South", 0.3), part("East", 0.15), part("West", 0.05)];
    expect(shareHeadline("Revenue", "area", "whole", parts, "Budget")).toBe(
      "North makes 50.0% of revenue; the first three make 95.0%.",
    );
    const reached = [part("North", 0.5, 900_000), part("West", 0.1, -120_000)];
    expect(shareHeadline("Revenue", "area", "basis", reached, "Budget")).toBe(
      "1 of 2 areas reach Budget in revenue; West is last: € 120k left to Budget.",
    );
  });
});
