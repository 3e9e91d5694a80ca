/**
 * The kinds of panels there are, in the order in which they are offered, and what a panel of each is called where one is
 * spoken of. What each is stands in its folder.
 */
export const KIND_NAMES = {
  scorecard: "a scorecard",
  tiles: "tiles",
  "time-chart": "a chart over time",
  bridge: "a bridge",
  outlook: "outlook",
  "expected-range": "an expected range",
  accuracy: "accuracy of versions",
  growth: "growth",
  season: "a season",
  breakdown: "a breakdown",
  "cross-tab": "a cross-tab",
  share: "shares",
  map: "a map",
  heat: "a heat grid",
  scatter: "a scatter",
  text: "a text",
  chooser: "a chooser",
} as const;

export type PanelKind = keyof typeof KIND_NAMES;
export const PANEL_KINDS = Object.keys(KIND_NAMES) as readonly PanelKind[];
