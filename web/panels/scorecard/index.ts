import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const scorecard: PanelView<"scorecard"> = {
  question: "How do we stand, KPI by KPI?",
  also: ["several KPIs in a table", "status and trend by KPI", "actual, budget and variance by row"],
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "scorecard", groups: [{ title: "KPIs", kpis: [...kpis] }] }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
