import type { PackDraft } from "#contract/pack.ts";
import type { DefinitionOf } from "#contract/panels/index.ts";

type PageDraft = PackDraft["pages"][number];
type Tiles = DefinitionOf<"tiles">;

const page = (
  key: string,
  name: string,
  lead: string,
  groups: readonly [string, readonly string[]][],
  scope = {},
): PageDraft => ({
  key,
  name,
  scope,
  panels: [
    {
      key: "scorecard",
      kind: "scorecard",
      groups: groups.map(([title, kpis]) => ({ title, kpis: [...kpis] })),
      place: { x: 0, y: 0, w: 15, h: 62 },
    },
    { key: "over-time", kind: "time-chart", kpi: lead, place: { x: 15, y: 0, w: 9, h: 62 } },
  ],
});

const tiles = (kpis: readonly string[], change: Partial<Omit<Tiles, "key" | "kind" | "kpis">> = {}): Tiles => ({
  key: "tiles",
  kind: "tiles",
  kpis: [...kpis],
  repeatBy: null,
  order: "set",
  isReversed: false,
  top: null,
  ...change,
});

const AREA_GROUPS: readonly [string, readonly string[]][] = [
  ["Revenue", ["total_revenue", "tickets", "freight", "freight_price", "onboard_spend", "passenger_count"]],
  ["Costs kept by route", ["fuel", "crew", "overtime", "maintenance"]],
  ["Service", ["on_time_rate", "load_factor", "complaint_rate"]],
];

/** Operations are kept by day: the month so far stands above the figures to date. */
const operations = (own: PageDraft): PageDraft => ({
  ...own,
  panels: [
    tiles(["carried", "load_factor", "on_time_rate", "cancelled"], {
      figures: ["month-to-date", "same-day", "run-rate-month", "year-to-date"],
    }),
    ...own.panels,
  ],
});

/** The monthly review, as the analyst lays it out. */
export const PACK: PackDraft = {
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
    {
      key: "at-a-glance",
      name: "At a glance",
      scope: {},
      panels: [
        tiles(
          [
            "total_revenue",
            "operating_result",
            "operating_margin",
            "fuel",
            "passenger_count",
            "load_factor",
            "on_time_rate",
            "cash_position",
          ],
          { figures: ["month", "year-to-date", "prior-year", "run-rate-year", "outlook"] },
        ),
      ],
    },
    {
      key: "routes",
      name: "Routes",
      scope: {},
      panels: [
        tiles(["total_revenue", "tickets", "freight", "fuel", "crew", "on_time_rate"], {
          repeatBy: { dimension: "route", level: "Route" },
          order: "attainment",
          isReversed: true,
        }),
      ],
    },
    page("revenue", "Revenue", "tickets", [
      ["Revenue", ["total_revenue", "tickets", "freight"]],
      ["Volume and price", ["passenger_count", "onboard_spend", "freight_price"]],
    ]),
    page("costs-and-fuel", "Costs and fuel", "fuel", [
      ["Operating costs", ["costs", "fuel", "crew", "maintenance", "overtime", "advertising_spend"]],
      ["In proportion", ["fuel_share", "operating_margin"]],
    ]),
    operations(
      page("operations", "Operations", "on_time_rate", [
        ["Service", ["on_time_rate", "cancelled", "complaint_rate"]],
        ["Use", ["load_factor", "passenger_count", "carried"]],
        ["People", ["people"]],
      ]),
    ),
    page("skerry-sound", "Skerry Sound", "total_revenue", AREA_GROUPS, { route: ["skerry-sound"] }),
    page("lantern-bay", "Lantern Bay", "total_revenue", AREA_GROUPS, { route: ["lantern-bay"] }),
    page("northreach", "Northreach", "freight", AREA_GROUPS, { route: ["northreach"] }),
  ],
};
