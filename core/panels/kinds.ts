/** The kinds of panels there are, in the order in which they are offered. What each is stands in the three indexes. */
export const PANEL_KINDS = [
  "scorecard",
  "tiles",
  "time-chart",
  "bridge",
  "outlook",
  "expected-range",
  "accuracy",
  "growth",
  "season",
  "breakdown",
  "cross-tab",
  "share",
  "map",
  "heat",
  "scatter",
  "text",
  "chooser",
] as const;
export type PanelKind = (typeof PANEL_KINDS)[number];

/** What a panel of a kind is called where one is spoken of. */
export const KIND_NAMES: Readonly<Record<PanelKind, string>> = {
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
};
