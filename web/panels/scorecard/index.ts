import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../panel-view.ts";

export const scorecard: PanelView<"scorecard"> = {
  name: "a scorecard",
  question: "How do we stand, KPI by KPI?",
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "scorecard", groups: [{ title: "KPIs", kpis: [...kpis] }] }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
