import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const accuracy: PanelView<"accuracy"> = {
  question: "How accurate were our forecasts?",
  also: ["forecast against actual", "bias of forecasts"],
  follows: true,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "accuracy", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
