import { describe, expect, it } from "vitest";
import { answeredChoice, PANEL_SCHEMAS, type PanelKind } from "./schemas.ts";

describe("what an answer depends on of what was chosen", () => {
  it("is all of the kind's own choices but those that only decide how it is shown", () => {
    const chosen = { kpi: "fuel", marks: "lines", table: "open", order: "worst", top: "5" };
    expect(answeredChoice("time-chart", chosen)).toEqual({ kpi: "fuel" });
    expect(answeredChoice("tiles", chosen)).toEqual({ kpi: "fuel", order: "worst", top: "5" });
    expect(answeredChoice("scorecard", chosen)).toEqual({});
    expect(answeredChoice("tiles", {})).toEqual({});
  });

  it("names no choice that its kind does not have", () => {
    for (const [kind, contract] of Object.entries(PANEL_SCHEMAS) as [PanelKind, { choice: { shape: object } }][]) {
      const { shown = [] } = PANEL_SCHEMAS[kind] as { shown?: readonly string[] };
      for (const part of shown) expect(Object.keys(contract.choice.shape)).toContain(part);
    }
  });
});
