import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../panel-view.ts";

export const timeChart: PanelView<"time-chart"> = {
  name: "a chart over time",
  question: "How did it go, and where does it lead?",
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({ key, kind: "time-chart", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
