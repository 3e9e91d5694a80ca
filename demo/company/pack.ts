import type { PackDefinition, PageDefinition } from "#contract/pack.ts";

const page = (
  key: string,
  name: string,
  lead: string,
  groups: readonly [string, readonly string[]][],
  scope = {},
): PageDefinition => ({
  key,
  name,
  scope,
  panels: [
    { key: "scorecard", kind: "scorecard", groups: groups.map(([title, kpis]) => ({ title, kpis: [...kpis] })) },
    { key: "over-time", kind: "time-chart", kpi: lead },
  ],
});

const AREA_GROUPS: readonly [string, readonly string[]][] = [
  ["Revenue", ["total_revenue", "tickets", "freight", "freight_price", "onboard_spend", "passenger_count"]],
  ["Costs kept by route", ["fuel", "crew", "overtime", "maintenance"]],
  ["Service", ["on_time_rate", "load_factor", "complaint_rate"]],
];

/** The monthly review, as the analyst lays it out. */
export const PACK: PackDefinition = {
  key: "monthly-review",
  name: "{month} review",
  pages: [
    page("cover", "Cover", "total_revenue", [
      ["Result", ["total_revenue", "operating_result", "operating_margin"]],
      ["Revenue", ["tickets", "freight", "onboard_spend"]],
      ["Costs", ["fuel", "overtime", "maintenance"]],
      ["Service", ["passenger_count", "on_time_rate", "load_factor"]],
      ["Cash", ["cash_position"]],
    ]),
    page("revenue", "Revenue", "tickets", [
      ["Revenue", ["total_revenue", "tickets", "freight"]],
      ["Volume and price", ["passenger_count", "onboard_spend", "freight_price"]],
    ]),
    page("costs-and-fuel", "Costs and fuel", "fuel", [
      ["Operating costs", ["costs", "fuel", "crew", "maintenance", "overtime", "advertising_spend"]],
      ["In proportion", ["fuel_share", "operating_margin"]],
    ]),
    page("operations", "Operations", "on_time_rate", [
      ["Service", ["on_time_rate", "cancelled", "complaint_rate"]],
      ["Use", ["load_factor", "passenger_count"]],
      ["People", ["people"]],
    ]),
    page("skerry-sound", "Skerry Sound", "total_revenue", AREA_GROUPS, { route: ["skerry-sound"] }),
    page("lantern-bay", "Lantern Bay", "total_revenue", AREA_GROUPS, { route: ["lantern-bay"] }),
    page("northreach", "Northreach", "freight", AREA_GROUPS, { route: ["northreach"] }),
  ],
};
