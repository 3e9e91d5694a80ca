import { describe, expect, it } from "vitest";
import { keepFrame, safeReturn } from "./addresses.ts";
import { formatFigureAddress, parseFigureAddress } from "../panel-frame/figure-address.ts";

describe("addresses", () => {
  it("lead back only into this application", () => {
    expect(safeReturn("/packs/monthly-review/cover?kpi=fuel")).toBe("/packs/monthly-review/cover?kpi=fuel");
    for (const elsewhere of [
      "//evil.example",
      "/\\evil.example",
      "https://evil.example",
      "javascript:alert(1)",
      "",
      null,
    ])
      expect(safeReturn(elsewhere)).toBe("/");
  });
  it("keep as-of, span, basis and unit from page to page, and leave scope and KPI behind", () => {
    expect(keepFrame("?asOf=2026-09&kpi=fuel&scope=route:x&unit=million&table=open")).toBe(
      "?asOf=2026-09&unit=million",
    );
    expect(keepFrame("?kpi=fuel")).toBe("");
  });
  it("name a figure and read it back", () => {
    expect(parseFigureAddress(formatFigureAddress("fuel", "prior-year"))).toEqual({ kpi: "fuel", side: "prior-year" });
    expect(parseFigureAddress(formatFigureAddress("fuel", "actual", "2026-08"))).toEqual({
      kpi: "fuel",
      side: "actual",
      months: "2026-08",
    });
    expect(parseFigureAddress(formatFigureAddress("fuel", "actual", "2026-07..2026-09"))?.months).toBe(
      "2026-07..2026-09",
    );
    for (const text of [undefined, "", "fuel", "fuel.sideways", ".actual"])
      expect(parseFigureAddress(text)).toBeUndefined();
  });
});
