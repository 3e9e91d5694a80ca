import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const timeChart: PanelView<"time-chart"> = {
  name: KIND_NAMES["time-chart"],
  question: "How did it go, and where does it lead?",
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({ key, kind: "time-chart", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
