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
