import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const outlook: PanelView<"outlook"> = {
  question: "Where do we end the year?",
  also: ["year-end estimate", "gap to close", "run rate to the year's end"],
  follows: true,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "outlook", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
