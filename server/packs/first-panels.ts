import { panelSize } from "#core/panels/schemas.ts";
import type { PackDraft } from "#contract/pack.ts";

type PanelDrafts = PackDraft["pages"][number]["panels"];

const MOST_TILES = 4;
const CHARTS = 50;
const LONE_TILE = 8;

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
  const tileRow = {
    key: "tiles",
    kind: "tiles",
    kpis: tiles,
    repeatBy: null,
    order: "set",
    isReversed: false,
    top: null,
  } as const;
  const scorecard = { key: "scorecard", kind: "scorecard", groups: [{ title, kpis: [...kpis] }] } as const;
  const top = panelSize(tileRow).h;
  return [
    { ...tileRow, place: { x: 0, y: 0, w: isAlone ? LONE_TILE : 24, h: top } },
    { key: "over-time", kind: "time-chart", kpi: kpis[0]!, place: { x: 0, y: top, w: wide, h: CHARTS } },
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
            place: { x: wide, y: top, w: 24 - wide, h: CHARTS },
          } as const,
        ]),
    {
      ...scorecard,
      // One KPI and its row fill a line together.
      place: isAlone
        ? { x: LONE_TILE, y: 0, w: 24 - LONE_TILE, h: top }
        : { x: 0, y: top + CHARTS, w: 24, h: panelSize(scorecard).h },
    },
  ] as const;
}
