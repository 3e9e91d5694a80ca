import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const crossTab: PanelView<"cross-tab"> = {
  question: "What are the figures, exactly?",
  also: ["pivot table", "rows and columns", "matrix with subtotals"],
  follows: true,
  fills: true,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "cross-tab",
    kpis: kpis.slice(0, 1),
    rows: dimensions[0]
      ? [{ kind: "member", dimension: dimensions[0].key, level: null, hasTotal: true }]
      : [{ kind: "period", grain: "month", hasTotal: true }],
    columns: [{ kind: "scenario" }],
    measures: ["value", "delta", "delta-percent"],
    shade: "none",
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
