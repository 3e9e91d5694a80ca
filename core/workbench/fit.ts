import { PANEL_KINDS, type PanelKind } from "../panels/kinds.ts";
import { fits, type Attempt, type Fit } from "./attempt.ts";
import type { AccuracyDefinition } from "../panels/accuracy/schema.ts";
import type { BreakdownDefinition } from "../panels/breakdown/schema.ts";
import type { BridgeDefinition } from "../panels/bridge/schema.ts";
import type { ChooserDefinition } from "../panels/chooser/schema.ts";
import type { CrossTabDefinition } from "../panels/cross-tab/schema.ts";
import type { ExpectedRangeDefinition } from "../panels/expected-range/schema.ts";
import type { GrowthDefinition } from "../panels/growth/schema.ts";
import type { HeatDefinition } from "../panels/heat/schema.ts";
import type { MapDefinition } from "../panels/map/schema.ts";
import type { OutlookDefinition } from "../panels/outlook/schema.ts";
import type { ScatterDefinition } from "../panels/scatter/schema.ts";
import type { ScorecardDefinition } from "../panels/scorecard/schema.ts";
import type { SeasonDefinition } from "../panels/season/schema.ts";
import type { ShareDefinition } from "../panels/share/schema.ts";
import type { TextDefinition } from "../panels/text/schema.ts";
import type { TilesDefinition } from "../panels/tiles/schema.ts";
import { MOST_KPIS_OVER_TIME, type TimeChartDefinition } from "../panels/time-chart/schema.ts";

/** The definition of each kind. */
interface Definitions {
  readonly scorecard: ScorecardDefinition;
  readonly tiles: TilesDefinition;
  readonly "time-chart": TimeChartDefinition;
  readonly bridge: BridgeDefinition;
  readonly breakdown: BreakdownDefinition;
  readonly heat: HeatDefinition;
  readonly scatter: ScatterDefinition;
  readonly outlook: OutlookDefinition;
  readonly "expected-range": ExpectedRangeDefinition;
  readonly accuracy: AccuracyDefinition;
  readonly growth: GrowthDefinition;
  readonly season: SeasonDefinition;
  readonly share: ShareDefinition;
  readonly map: MapDefinition;
  readonly "cross-tab": CrossTabDefinition;
  readonly text: TextDefinition;
  readonly chooser: ChooserDefinition;
}
export type AttemptPanel = Definitions[PanelKind];

/** The key of the workbench's one panel. */
export const ATTEMPT_KEY = "attempt";

const ARRANGED = { order: "value", isReversed: false, top: null } as const;

/** How each kind shows an attempt. A kind that is forgotten here fails to compile. */
const FITS: { readonly [K in PanelKind]: (attempt: Attempt) => Fit<Definitions[K]> } = {
  scorecard: ({ kpis, split }) => ({
    fitness: kpis.length > 1 ? 0.85 : 0.3,
    panel: {
      key: ATTEMPT_KEY,
      kind: "scorecard",
      groups: [{ title: "KPIs", kpis }],
      ...(split ? { expandBy: split.dimension } : {}),
    },
  }),
  tiles: ({ kpis, split }) => ({
    fitness: split ? 0.7 : 0.5,
    panel: { key: ATTEMPT_KEY, kind: "tiles", kpis, repeatBy: split, ...ARRANGED, order: split ? "value" : "set" },
  }),
  "time-chart": ({ kpis: [kpi, ...others], split }) => {
    if (split && others.length > 0)
      return { unfit: "A chart over time is split of one KPI: take the others, or the split, out." };
    if (others.length >= MOST_KPIS_OVER_TIME)
      return { unfit: `A chart over time shows ${MOST_KPIS_OVER_TIME} KPIs at most: take some out.` };
    const panel = { key: ATTEMPT_KEY, kind: "time-chart", kpi: kpi! } as const;
    if (split) return { fitness: 0.66, panel: { ...panel, split, stacking: "stacked" } };
    return others.length > 0 ? { fitness: 0.7, panel: { ...panel, others } } : { fitness: 0.9, panel };
  },
  breakdown: ({ kpis, split }) => {
    if (!split) return { unfit: "A breakdown needs members: choose by what to split." };
    return {
      fitness: kpis.length === 1 ? 0.95 : 0.8,
      panel: {
        key: ATTEMPT_KEY,
        kind: "breakdown",
        kpis,
        by: split,
        cluster: null,
        stacking: "clustered",
        ...ARRANGED,
      },
    };
  },
  bridge: ({ kpis, split }) => {
    if (kpis.length > 1) return { unfit: "A bridge leads from one figure to another: choose one KPI." };
    return {
      fitness: split ? 0.75 : 0.6,
      panel: {
        key: ATTEMPT_KEY,
        kind: "bridge",
        kpi: kpis[0]!,
        from: "basis",
        by: split ? { kind: "member", ...split } : { kind: "account" },
        order: "tree",
        top: 12,
        hasSubtotals: true,
      },
    };
  },
  heat: ({ kpis, split }) => {
    if (!split) return { unfit: "A heat grid needs members along one side: choose by what to split." };
    if (kpis.length > 1) return { unfit: "A heat grid shows one KPI: choose one of them." };
    return {
      fitness: 0.72,
      panel: {
        key: ATTEMPT_KEY,
        kind: "heat",
        kpi: kpis[0]!,
        rows: { kind: "member", ...split },
        columns: { kind: "month" },
        shade: "value",
        years: 1,
      },
    };
  },
  scatter: ({ kpis, split }) => {
    if (kpis.length < 2 || kpis.length > 3)
      return { unfit: "A scatter sets two KPIs against each other, and may size by a third: choose two or three." };
    return {
      fitness: split ? 0.9 : 0.8,
      panel: {
        key: ATTEMPT_KEY,
        kind: "scatter",
        x: kpis[0]!,
        y: kpis[1]!,
        size: kpis[2] ?? null,
        by: split ? { kind: "member", ...split } : { kind: "period", grain: "month", last: 24 },
        quadrants: "average",
        hasLine: true,
      },
    };
  },
  outlook: ({ kpis, split }) => {
    if (kpis.length > 1 || split)
      return { unfit: "An outlook is of one KPI as a whole: take the others, or the split, out." };
    return { fitness: 0.45, panel: { key: ATTEMPT_KEY, kind: "outlook", kpi: kpis[0]! } };
  },
  "expected-range": ({ kpis, split }) => {
    if (kpis.length > 1) return { unfit: "An expected range is of one KPI: choose one of them." };
    return {
      fitness: 0.4,
      panel: { key: ATTEMPT_KEY, kind: "expected-range", kpi: kpis[0]!, grain: "month", ...(split ? { split } : {}) },
    };
  },
  accuracy: ({ kpis, split }) => {
    if (kpis.length > 1 || split)
      return { unfit: "Versions are judged by one KPI as a whole: take the others, or the split, out." };
    return { fitness: 0.3, panel: { key: ATTEMPT_KEY, kind: "accuracy", kpi: kpis[0]! } };
  },
  growth: ({ kpis, split }) => {
    if (kpis.length > 1) return { unfit: "Growth is shown of one KPI: choose one of them." };
    return {
      fitness: 0.55,
      panel: {
        key: ATTEMPT_KEY,
        kind: "growth",
        kpi: kpis[0]!,
        on: "prior-year",
        by: split ? { kind: "member", ...split } : { kind: "time", grain: "month", last: null },
        ranges: null,
      },
    };
  },
  season: ({ kpis, split }) => {
    if (split) return { unfit: "Seasons are shown of the whole: take the split out." };
    if (kpis.length > 1) return { unfit: "Seasons are shown of one KPI: choose one of them." };
    return {
      fitness: 0.52,
      panel: { key: ATTEMPT_KEY, kind: "season", kpi: kpis[0]!, view: "band", years: 3, countsStudied: false },
    };
  },
  share: ({ kpis, split }) => {
    if (!split) return { unfit: "Shares need members: choose by what to split." };
    if (kpis.length > 1) return { unfit: "Shares are shown of one KPI: choose one of them." };
    return {
      fitness: 0.65,
      panel: { key: ATTEMPT_KEY, kind: "share", kpi: kpis[0]!, by: split, of: "whole", shape: "ring" },
    };
  },
  map: ({ kpis, split }) => {
    if (!split) return { unfit: "A map needs members that carry a country: choose by what to split." };
    if (kpis.length > 1) return { unfit: "A map shows one KPI: choose one of them." };
    return {
      fitness: 0.45,
      panel: { key: ATTEMPT_KEY, kind: "map", kpi: kpis[0]!, by: split, colour: "judgement" },
    };
  },
  "cross-tab": ({ kpis, split }) => ({
    fitness: 0.58,
    panel: {
      key: ATTEMPT_KEY,
      kind: "cross-tab",
      kpis,
      rows: split ? [{ kind: "member", ...split, hasTotal: true }] : [{ kind: "kpi" }],
      columns: split && kpis.length > 1 ? [{ kind: "kpi" }] : [{ kind: "period", grain: "month", hasTotal: true }],
      measures: ["value"],
      shade: "none",
    },
  }),
  text: ({ kpis }) => ({
    fitness: 0.1,
    panel: { key: ATTEMPT_KEY, kind: "text", text: kpis.map((kpi) => `{${kpi}}: {${kpi} words}.`).join("\n\n") },
  }),
  chooser: () => ({ unfit: "A chooser changes other panels: it has a place on a page only." }),
};

/** All kinds with how they show an attempt, the fittest first, those that cannot last. */
export function fittingKinds(attempt: Attempt): { readonly kind: PanelKind; readonly fit: Fit<AttemptPanel> }[] {
  const rank = (fit: Fit<AttemptPanel>) => (fits(fit) ? fit.fitness : -1);
  return PANEL_KINDS.map((kind) => ({ kind, fit: FITS[kind](attempt) as Fit<AttemptPanel> })).sort(
    (a, b) => rank(b.fit) - rank(a.fit),
  );
}

/** The panel of an attempt: of its own kind where that can show it, else of the fittest. */
export function attemptPanel(attempt: Attempt): { readonly panel: AttemptPanel; readonly why: string | null } {
  const kinds = fittingKinds(attempt);
  const wanted = kinds.find(({ kind }) => kind === attempt.kind);
  if (wanted && fits(wanted.fit)) return { panel: wanted.fit.panel, why: null };
  const best = kinds.find(({ fit }) => fits(fit))!;
  return {
    panel: (best.fit as Extract<Fit<AttemptPanel>, { panel: AttemptPanel }>).panel,
    why: wanted && !fits(wanted.fit) ? wanted.fit.unfit : null,
  };
}
