import type { PackDraft } from "#contract/pack.ts";

type PanelDrafts = PackDraft["pages"][number]["panels"];

const MOST_TILES = 4;
const TILES = 22;
const CHARTS = 50;
const LONE_TILE = 8;
/** What a scorecard needs besides its rows, and a row of it, in steps of the grid. */
const SCORECARD = { head: 14, row: 4 };

/** The panels of a first page, from the message down: tiles, the first KPI over time and by a dimension, the scorecard. */
export function firstPanels({
  title,
  kpis,
  dimension,
}: {
  readonly title: string;
  /** By weight: the first one is what the page is about. */
  readonly kpis: readonly string[];
  /** The dimension that tells most of the first one; `null` where there is none. */
  readonly dimension: string | null;
}): PanelDrafts {
  const tiles = kpis.slice(0, MOST_TILES);
  const isAlone = kpis.length === 1;
  const wide = dimension === null ? 24 : 14;
  const panels = [
    {
      key: "tiles",
      kind: "tiles",
      kpis: tiles,
      repeatBy: null,
      order: "set",
      isReversed: false,
      top: null,
      place: { x: 0, y: 0, w: isAlone ? LONE_TILE : 24, h: TILES },
    },
    { key: "over-time", kind: "time-chart", kpi: kpis[0]!, place: { x: 0, y: TILES, w: wide, h: CHARTS } },
    ...(dimension === null
      ? []
      : [
          {
            key: "breakdown",
            kind: "breakdown",
            kpis: tiles,
            by: { dimension, level: null },
            cluster: null,
            stacking: "clustered",
            order: "value",
            isReversed: false,
            top: 12,
            place: { x: wide, y: TILES, w: 24 - wide, h: CHARTS },
          } as const,
        ]),
    {
      key: "scorecard",
      kind: "scorecard",
      groups: [{ title, kpis: [...kpis] }],
      // One KPI and its row fill a line together.
      place: isAlone
        ? { x: LONE_TILE, y: 0, w: 24 - LONE_TILE, h: TILES }
        : { x: 0, y: TILES + CHARTS, w: 24, h: SCORECARD.head + SCORECARD.row * (kpis.length + 1) },
    },
  ] as const;
  return panels;
}
