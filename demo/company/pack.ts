import type { Place } from "#core/layout/place.ts";
import type { PackDraft } from "#contract/pack.ts";
import type { DefinitionOf, PanelKind } from "#core/panels/schemas.ts";

type PageDraft = PackDraft["pages"][number];
type PanelDraft = PageDraft["panels"][number];
type Partly<K extends PanelKind> = Partial<Omit<DefinitionOf<K>, "key" | "kind">>;

const REVIEW = "monthly-review";
const at = (x: number, y: number, w: number, h: number): Place => ({ x, y, w, h });
const page = (key: string): { pack: string; page: string } => ({ pack: REVIEW, page: key });

const scorecard = (
  place: Place,
  groups: readonly [string, readonly string[]][],
  change: Partly<"scorecard"> = {},
): PanelDraft => ({
  key: "scorecard",
  kind: "scorecard",
  groups: groups.map(([title, kpis]) => ({ title, kpis: [...kpis] })),
  ...change,
  place,
});

const overTime = (place: Place, kpi: string, change: Partly<"time-chart"> = {}, key = "over-time"): PanelDraft => ({
  key,
  kind: "time-chart",
  kpi,
  ...change,
  place,
});

const tiles = (place: Place, kpis: readonly string[], change: Partly<"tiles"> = {}): PanelDraft => ({
  key: "tiles",
  kind: "tiles",
  kpis: [...kpis],
  repeatBy: null,
  order: "set",
  isReversed: false,
  top: null,
  ...change,
  place,
});

const breakdown = (
  key: string,
  place: Place,
  kpis: readonly string[],
  by: DefinitionOf<"breakdown">["by"],
  change: Partly<"breakdown"> = {},
): PanelDraft => ({
  key,
  kind: "breakdown",
  kpis: [...kpis],
  by,
  cluster: null,
  stacking: "clustered",
  order: "value",
  isReversed: false,
  top: null,
  ...change,
  place,
});

const bridge = (place: Place, kpi: string, change: Partly<"bridge"> = {}): PanelDraft => ({
  key: "bridge",
  kind: "bridge",
  kpi,
  from: "basis",
  by: { kind: "account" },
  order: "tree",
  top: null,
  hasSubtotals: true,
  ...change,
  place,
});

const crossTab = (
  key: string,
  place: Place,
  kpis: readonly string[],
  rows: DefinitionOf<"cross-tab">["rows"],
  columns: DefinitionOf<"cross-tab">["columns"],
  change: Partly<"cross-tab"> = {},
): PanelDraft => ({
  key,
  kind: "cross-tab",
  kpis: [...kpis],
  rows,
  columns,
  measures: ["value"],
  shade: "none",
  ...change,
  place,
});

const text = (place: Place, written: string): PanelDraft => ({
  key: "message",
  kind: "text",
  text: written,
  isBare: true,
  place,
});

const SEA_AREA = { dimension: "route", level: null };
const ROUTE = { dimension: "route", level: "Route" };
const SERVICE = { dimension: "service", level: null };
const DEPARTMENT = { dimension: "cost-centre", level: null };
const VESSEL = { dimension: "vessel", level: null };

const AREA_GROUPS: readonly [string, readonly string[]][] = [
  ["Revenue", ["total_revenue", "tickets", "freight", "freight_price", "onboard_spend", "passenger_count"]],
  ["Costs kept by route", ["fuel", "crew", "overtime", "maintenance"]],
  ["Service", ["on_time_rate", "load_factor", "complaint_rate"]],
];

const AREAS = [
  ["skerry-sound", "Skerry Sound"],
  ["lantern-bay", "Lantern Bay"],
  ["northreach", "Northreach"],
] as const;

const areaPage = (key: string, name: string, lead: string): PageDraft => ({
  key,
  name,
  group: "By area",
  scope: { route: [key] },
  panels: [
    scorecard(at(0, 0, 15, 54), AREA_GROUPS),
    overTime(at(15, 0, 9, 54), lead),
    breakdown("routes", at(0, 54, 12, 26), ["total_revenue", "tickets", "freight"], ROUTE),
    breakdown("services", at(12, 54, 12, 26), ["total_revenue"], SERVICE),
  ],
});

/** The monthly review, as the analyst lays it out. */
export const PACK: PackDraft = {
  key: REVIEW,
  name: "{month} review",
  pages: [
    {
      key: "cover",
      name: "Cover",
      scope: {},
      panels: [
        text(
          at(0, 0, 24, 6),
          "**Operating result** {operating_result}, {operating_result words}. **Fuel** takes {fuel variance}, {fuel percent} of its budget; **freight** brings {freight variance}.",
        ),
        scorecard(
          at(0, 6, 15, 60),
          [
            ["Result", ["total_revenue", "operating_result", "operating_margin"]],
            ["Revenue", ["tickets", "freight", "onboard_spend"]],
            ["Costs", ["fuel", "overtime", "maintenance"]],
            ["Service", ["passenger_count", "on_time_rate", "load_factor"]],
            ["Cash", ["cash_position"]],
          ],
          {
            links: {
              total_revenue: page("revenue"),
              tickets: page("revenue"),
              freight: page("revenue"),
              fuel: page("costs-and-fuel"),
              maintenance: page("costs-and-fuel"),
              on_time_rate: page("operations"),
            },
          },
        ),
        overTime(at(15, 6, 9, 60), "total_revenue"),
      ],
    },
    {
      key: "at-a-glance",
      name: "At a glance",
      scope: {},
      panels: [
        tiles(
          at(0, 0, 24, 60),
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
        breakdown("areas", at(0, 60, 12, 24), ["total_revenue", "fuel", "on_time_rate"], SEA_AREA, {
          link: page("routes"),
        }),
        breakdown("departments", at(12, 60, 12, 24), ["costs"], DEPARTMENT, { order: "variance", isReversed: true }),
      ],
    },
    {
      key: "routes",
      name: "Routes",
      scope: {},
      look: { click: "weigh" },
      panels: [
        tiles(at(0, 0, 24, 66), ["total_revenue", "tickets", "freight", "fuel", "crew", "on_time_rate"], {
          repeatBy: ROUTE,
          order: "attainment",
          isReversed: true,
        }),
        overTime(at(0, 66, 14, 46), "total_revenue"),
        breakdown("services", at(14, 66, 10, 46), ["total_revenue"], SERVICE),
      ],
    },
    {
      key: "revenue",
      name: "Revenue",
      scope: {},
      panels: [
        {
          key: "measure",
          kind: "chooser",
          sets: "kpi",
          options: ["tickets", "freight", "total_revenue", "passenger_count", "onboard_spend"],
          panels: ["over-time", "areas", "services"],
          place: at(0, 0, 14, 6),
        },
        {
          key: "grain",
          kind: "chooser",
          sets: "grain",
          options: ["month", "quarter", "year"],
          panels: ["over-time"],
          place: at(14, 0, 10, 6),
        },
        overTime(at(0, 6, 14, 50), "tickets"),
        breakdown("areas", at(14, 6, 10, 24), ["tickets"], SEA_AREA),
        breakdown("services", at(14, 30, 10, 26), ["tickets"], SERVICE),
        scorecard(
          at(0, 56, 24, 28),
          [
            ["Revenue", ["total_revenue", "tickets", "freight"]],
            ["Volume and price", ["passenger_count", "onboard_spend", "freight_carried", "freight_price"]],
          ],
          { marksOutside: true },
        ),
        bridge(at(0, 84, 12, 26), "freight", {
          by: { kind: "effects", quantity: "freight_carried", ...ROUTE },
        }),
        {
          ...bridge(at(12, 84, 12, 26), "total_revenue", { by: { kind: "member", ...SERVICE }, order: "effect" }),
          key: "bridge-by-service",
        },
        {
          key: "season",
          kind: "season",
          kpi: "passenger_count",
          view: "band",
          years: 3,
          countsStudied: false,
          place: at(0, 110, 12, 46),
        },
        {
          key: "made-up",
          kind: "share",
          kpi: "total_revenue",
          by: SERVICE,
          of: "whole",
          shape: "ring",
          place: at(12, 110, 12, 24),
        },
        {
          key: "reached",
          kind: "share",
          kpi: "tickets",
          by: SEA_AREA,
          of: "basis",
          shape: "ruler",
          place: at(12, 134, 12, 22),
        },
        {
          // No budget is kept by home market.
          key: "markets",
          kind: "map",
          kpi: "tickets",
          by: { dimension: "home-market", level: null },
          colour: "judgement",
          holds: { basis: "prior-year" },
          place: at(0, 156, 24, 46),
        },
      ],
    },
    {
      key: "costs-and-fuel",
      name: "Costs and fuel",
      scope: {},
      panels: [
        scorecard(at(0, 0, 14, 40), [
          ["Operating costs", ["costs", "fuel", "crew", "maintenance", "overtime", "advertising_spend"]],
          ["In proportion", ["fuel_share", "operating_margin"]],
        ]),
        overTime(at(14, 0, 10, 40), "fuel"),
        {
          key: "vessel-months",
          kind: "heat",
          kpi: "fuel",
          rows: { kind: "member", ...VESSEL },
          columns: { kind: "month" },
          shade: "delta-percent",
          years: 1,
          holds: { basis: "prior-year" },
          place: at(12, 40, 12, 46),
        },
        bridge(at(0, 86, 14, 54), "operating_result"),
        {
          key: "fuel-growth",
          kind: "growth",
          kpi: "fuel",
          on: "prior-year",
          by: { kind: "time", grain: "month", last: 12 },
          ranges: null,
          place: at(14, 86, 10, 26),
        },
        // No budget is kept by vessel.
        breakdown("vessels", at(0, 40, 12, 46), ["fuel", "crew", "maintenance"], VESSEL, {
          holds: { basis: "prior-year" },
        }),
        breakdown("departments", at(14, 112, 10, 28), ["costs", "overtime"], DEPARTMENT, {
          order: "variance",
          isReversed: true,
        }),
      ],
    },
    {
      key: "operations",
      name: "Operations",
      scope: {},
      panels: [
        // Operations are kept by day: the month so far stands above the figures to date.
        tiles(at(0, 0, 24, 28), ["carried", "load_factor", "on_time_rate", "cancelled"], {
          figures: ["month-to-date", "same-day", "run-rate-month", "year-to-date"],
          marksOutside: true,
        }),
        scorecard(
          at(0, 28, 13, 44),
          [
            ["Service", ["on_time_rate", "cancelled", "complaint_rate"]],
            ["Use", ["load_factor", "passenger_count", "carried"]],
            ["People", ["people"]],
          ],
          { marksOutside: true },
        ),
        overTime(at(13, 28, 11, 44), "on_time_rate", {
          grain: "day",
          last: 92,
          marks: "lines",
          hides: ["prior-year"],
          moving: { periods: 12, isCentred: false },
          strip: "none",
          pins: [{ period: "2026-09-09", text: "Storms to 20 September stop two routes." }],
        }),
        {
          key: "out-of-the-ordinary",
          kind: "expected-range",
          kpi: "carried",
          grain: "day",
          split: ROUTE,
          place: at(0, 72, 24, 50),
        },
        breakdown("routes", at(0, 122, 24, 36), ["on_time_rate", "carried", "cancelled"], ROUTE, {
          order: "attainment",
          isReversed: true,
        }),
        {
          key: "load-and-complaints",
          kind: "scatter",
          x: "load_factor",
          y: "complaint_rate",
          size: "carried",
          by: { kind: "member", ...ROUTE },
          quadrants: "average",
          hasLine: true,
          place: at(0, 158, 12, 50),
        },
        {
          key: "weekdays",
          kind: "heat",
          kpi: "carried",
          rows: { kind: "weekday" },
          columns: { kind: "month" },
          shade: "value",
          years: 1,
          place: at(12, 158, 12, 50),
        },
      ],
    },
    {
      key: "outlook",
      name: "Outlook",
      scope: {},
      panels: [
        scorecard(
          at(0, 0, 24, 36),
          [
            ["Result", ["total_revenue", "operating_result", "net_result"]],
            ["Lines", ["tickets", "freight", "fuel", "crew", "maintenance"]],
          ],
          { columns: ["actual", "basis", "delta", "status", "outlook", "outlook-delta", "trend"] },
        ),
        overTime(at(0, 36, 14, 48), "operating_result", { holds: { span: "full-year" }, marks: "both" }),
        overTime(at(14, 36, 10, 48), "total_revenue", { holds: { span: "full-year" } }, "revenue-over-time"),
        { key: "sources", kind: "outlook", kpi: "operating_result", place: at(0, 84, 14, 44) },
        bridge(at(14, 84, 10, 44), "operating_result", { from: "to-date", by: { kind: "month" } }),
        overTime(at(0, 128, 24, 52), "total_revenue", { ahead: { horizon: 12 } }, "ahead"),
        { key: "versions", kind: "accuracy", kpi: "operating_result", place: at(0, 180, 24, 36) },
      ],
    },
    {
      // The same for each area, on one scale.
      key: "areas",
      name: "Side by side",
      group: "By area",
      scope: {},
      look: {
        headline: "The three areas, month by month and line by line",
        subtitle: "All charts stand on one scale",
        sharesScale: true,
      },
      panels: AREAS.flatMap(([key, name], i) => [
        overTime(
          at(i * 8, 0, 8, 42),
          "total_revenue",
          { title: name, holds: { scope: `route:${key}` }, hides: ["forecast"] },
          `over-time-${key}`,
        ),
        breakdown(`services-${key}`, at(i * 8, 42, 8, 30), ["total_revenue"], SERVICE, {
          holds: { scope: `route:${key}` },
          hides: ["delta-percent"],
        }),
      ]),
    },
    areaPage("skerry-sound", "Skerry Sound", "total_revenue"),
    areaPage("lantern-bay", "Lantern Bay", "total_revenue"),
    areaPage("northreach", "Northreach", "freight"),
    {
      key: "appendix",
      name: "Appendix",
      scope: {},
      look: { headline: "The figures behind the review, exactly" },
      panels: [
        crossTab(
          "routes-and-scenarios",
          at(0, 0, 14, 70),
          ["total_revenue", "tickets", "freight", "passenger_count", "on_time_rate"],
          [
            { kind: "member", ...SEA_AREA, hasTotal: true },
            { kind: "member", ...ROUTE, hasTotal: true },
          ],
          [{ kind: "scenario" }],
          { measures: ["value", "delta", "delta-percent"] },
        ),
        crossTab(
          "services-and-areas",
          at(14, 0, 10, 70),
          ["total_revenue"],
          [{ kind: "member", ...SERVICE, hasTotal: true }],
          [{ kind: "member", ...SEA_AREA, hasTotal: true }],
          { measures: ["value", "share-of-column"] },
        ),
        crossTab(
          "lines-and-months",
          at(0, 70, 24, 54),
          [
            "total_revenue",
            "tickets",
            "freight",
            "costs",
            "fuel",
            "crew",
            "maintenance",
            "overtime",
            "operating_result",
          ],
          [{ kind: "kpi" }],
          [{ kind: "period", grain: "month", hasTotal: true }],
          { shade: "judgement" },
        ),
        crossTab(
          "cost-centres",
          at(0, 124, 24, 90),
          ["costs", "overtime"],
          [
            { kind: "member", ...DEPARTMENT, hasTotal: true },
            { kind: "member", dimension: "cost-centre", level: "Cost centre", hasTotal: true },
          ],
          [{ kind: "period", grain: "quarter", hasTotal: true }],
          { measures: ["value", "basis", "delta", "delta-percent", "rank"] },
        ),
      ],
    },
  ],
};
