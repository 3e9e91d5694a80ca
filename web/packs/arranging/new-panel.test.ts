import { describe, expect, it } from "vitest";
import { PANEL_KINDS } from "#core/panels/schemas.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Page } from "#contract/pack.ts";
import { referencesOf } from "#core/panels/schemas.ts";
import { viewOf } from "../../panels/index.ts";
import { lackOf, newPanelFor } from "./new-panel.ts";

const kpi = (key: string) => ({ key, name: key, description: "", owner: "" });
const choicesOf = (kpis: readonly string[], dimensions: FrameChoices["dimensions"] = []) =>
  ({ kpis: kpis.map(kpi), dimensions }) as unknown as FrameChoices;
const EMPTY = { key: "page", panels: [] } as unknown as Page;
const REGION = [{ key: "region", name: "Region", plural: "regions", levels: ["Region"], members: [] }];

describe("a new panel", () => {
  it("refers to nothing that is not there, in a company without dimensions", () => {
    const choices = choicesOf(["sales", "cost"]);
    const there = PANEL_KINDS.filter((kind) => lackOf(choices, kind) === null);
    expect(PANEL_KINDS.filter((kind) => !there.includes(kind)).sort()).toEqual(["breakdown", "map", "share"]);
    for (const kind of there) {
      const panel = viewOf(kind).create(newPanelFor(EMPTY, choices, kind));
      expect([kind, referencesOf(panel).dimensions ?? []]).toEqual([kind, []]);
    }
    expect(PANEL_KINDS.filter((kind) => lackOf(choicesOf(["sales", "cost"], REGION), kind) !== null)).toEqual([]);
  });
  it("sets two KPIs against each other, also where the page shows one", () => {
    const panel = viewOf("scatter").create({
      ...newPanelFor(EMPTY, choicesOf(["sales", "cost"]), "scatter"),
      kpis: ["sales"],
      otherKpis: ["cost"],
    });
    expect(panel).toMatchObject({ x: "sales", y: "cost" });
    expect(lackOf(choicesOf(["sales"]), "scatter")).toContain("two KPIs");
  });
  it("needs a KPI, save for a text", () => {
    expect(PANEL_KINDS.filter((kind) => lackOf(choicesOf([], REGION), kind) === null)).toEqual(["text"]);
  });
});
