import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const expectedRange: PanelView<"expected-range"> = {
  question: "Is this unusual?",
  also: ["anomalies", "outliers", "control limits"],
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({ key, kind: "expected-range", kpi: kpis[0]!, grain: "month" }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
