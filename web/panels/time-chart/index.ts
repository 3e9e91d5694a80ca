import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const timeChart: PanelView<"time-chart"> = {
  question: "How has it developed, and where is it heading?",
  also: [
    "columns or lines by month",
    "trend line",
    "moving average",
    "forecast",
    "the average of a chosen year as a line",
    "reference line",
    "variance below",
    "stacked over time",
    "several KPIs over time",
  ],
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({ key, kind: "time-chart", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
