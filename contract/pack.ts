import { z } from "zod";
import { REFERENCE_PERIODS, REFERENCE_SIDES, REFERENCE_STATISTICS } from "#core/series/reference-kinds.ts";
import { TILE_FIGURES, type TileFigureKind } from "#core/compare/tile-figures.ts";
import { moneyUnitSchema, scopeSchema } from "./frame.ts";

const panelKey = z.string().regex(/^[a-z0-9-]+$/);

/** What can be said otherwise on any panel; where nothing is said, it is drafted from the figures. */
const ownWords = {
  title: z.string().max(200).optional(),
  subtitle: z.string().max(300).optional(),
  /** The unit money is shown in here, whatever the page's is. */
  unit: moneyUnitSchema.optional(),
};

/** What a scorecard can show of each KPI, in the order in which columns begin. */
export const SCORECARD_COLUMNS = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "growth",
  "to-date",
  "to-date-delta",
  "outlook",
  "outlook-delta",
  "trend",
  "words",
] as const;
export const scorecardColumnSchema = z.enum(SCORECARD_COLUMNS);

/** What is shown where nothing else is said: fit for most scorecards as it is. */
export const DEFAULT_COLUMNS: readonly ScorecardColumn[] = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "trend",
];

/** A scorecard: KPIs by row, in groups; columns in an order. */
export const scorecardPanelSchema = z.object({
  key: panelKey,
  kind: z.literal("scorecard"),
  ...ownWords,
  groups: z.array(z.object({ title: z.string().max(120), kpis: z.array(z.string().max(60)).max(200) })).max(60),
  columns: z.array(scorecardColumnSchema).min(1).max(SCORECARD_COLUMNS.length).readonly().optional(),
  /** The dimension whose members a row opens into; the company's first where nothing is said. */
  expandBy: z.string().max(100).optional(),
});

/** What a chart over time can leave out. */
export const CHART_SERIES = ["forecast", "budget", "target", "prior-year"] as const;

/** A line that a chart is read against. */
export const referenceSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("statistic"),
    of: z.enum(REFERENCE_STATISTICS),
    side: z.enum(REFERENCE_SIDES),
    over: z.enum(REFERENCE_PERIODS),
  }),
  z.object({ kind: z.literal("constant"), value: z.number(), name: z.string().min(1).max(60) }),
]);

/** One KPI over time; `kpi` is shown until the reader chooses another. */
export const timeChartPanelSchema = z.object({
  key: panelKey,
  kind: z.literal("time-chart"),
  ...ownWords,
  kpi: z.string(),
  /** How it is drawn until the reader chooses otherwise; by the KPI's kind where nothing is said. */
  marks: z.enum(["columns", "lines"]).optional(),
  /** What is left out besides the actual. */
  hides: z.array(z.enum(CHART_SERIES)).max(CHART_SERIES.length).readonly().optional(),
  /** Whether values stand beside their marks. */
  hasLabels: z.boolean().optional(),
  /** Decimals of the values, whatever the KPI's are. */
  decimals: z.number().int().min(0).max(4).optional(),
  references: z.array(referenceSchema).max(6).readonly().optional(),
});

/** In which order tiles stand: as they are set, or by what their figures say. */
export const TILE_ORDERS = ["set", "value", "attainment", "variance"] as const;
export const tileOrderSchema = z.enum(TILE_ORDERS);

/** What tiles show small where nothing else is said. */
export const DEFAULT_TILE_FIGURES: readonly TileFigureKind[] = ["month", "year-to-date", "prior-year", "run-rate-year"];

/** At most this many KPIs make tiles, and at most this many members repeat them. */
export const MAX_TILES = 100;

/**
 * KPIs as tiles: one large figure each, with small ones. Repeated by a dimension there is a
 * tile for each member, and the KPIs are layers of which one is shown at a time.
 */
export const tilesPanelSchema = z.object({
  key: panelKey,
  kind: z.literal("tiles"),
  ...ownWords,
  kpis: z.array(z.string().max(60)).min(1).max(MAX_TILES),
  figures: z.array(z.enum(TILE_FIGURES)).max(TILE_FIGURES.length).readonly().optional(),
  repeatBy: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }).nullable(),
  order: tileOrderSchema,
  /** Whether the order is turned round: the lowest, the worst, the last first. */
  isReversed: z.boolean(),
  /** How many members stand apart; the others are gathered in one tile. `null`: all. */
  top: z.number().int().min(1).max(MAX_TILES).nullable(),
});

export const panelSchema = z.discriminatedUnion("kind", [scorecardPanelSchema, timeChartPanelSchema, tilesPanelSchema]);

/** A page; its scope holds until the reader chooses another. */
export const pageSchema = z.object({
  key: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string(),
  scope: scopeSchema,
  panels: z.array(panelSchema),
});

/** Stands in a pack's name for the last closed month, so that the name rolls forward with it. */
export const MONTH_IN_NAME = "{month}";

/** A management review: pages in an order. */
export const packSchema = z.object({
  key: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string(),
  /** What its frame starts from where it is not the company's books: the dataset whose last month it shows, the basis and the unit. */
  starts: z.object({ dataset: z.string(), basis: z.string(), unit: moneyUnitSchema }).optional(),
  pages: z.array(pageSchema),
});

export const packListSchema = z.array(
  z.object({ key: z.string(), name: z.string(), pages: z.array(z.object({ key: z.string(), name: z.string() })) }),
);

export type ScorecardColumn = z.infer<typeof scorecardColumnSchema>;
export type ChartSeries = (typeof CHART_SERIES)[number];
export type TimeChartPanelDefinition = z.infer<typeof timeChartPanelSchema>;
export type TileOrder = z.infer<typeof tileOrderSchema>;
export type TilesPanelDefinition = z.infer<typeof tilesPanelSchema>;
export type ScorecardPanelDefinition = z.infer<typeof scorecardPanelSchema>;
export type PackDefinition = z.infer<typeof packSchema>;
export type PageDefinition = z.infer<typeof pageSchema>;
export type PanelDefinition = z.infer<typeof panelSchema>;
export type PackList = z.infer<typeof packListSchema>;

/** The KPIs that a panel names. */
export function kpisOf(panel: PanelDefinition): readonly string[] {
  switch (panel.kind) {
    case "scorecard":
      return panel.groups.flatMap((group) => group.kpis);
    case "tiles":
      return panel.kpis;
    case "time-chart":
      return [panel.kpi];
  }
}

/** The dimension that a panel opens or repeats by, where it names one. */
export function dimensionOf(panel: PanelDefinition): string | undefined {
  if (panel.kind === "scorecard") return panel.expandBy;
  return panel.kind === "tiles" ? panel.repeatBy?.dimension : undefined;
}
