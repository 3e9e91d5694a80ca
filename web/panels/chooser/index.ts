import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const chooser: PanelView<"chooser"> = {
  question: "What can readers change?",
  also: ["filter", "switch the KPI or the scope"],
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "chooser", sets: "kpi", options: kpis.slice(0, 8), panels: null }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
