import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const scorecard: PanelView<"scorecard"> = {
  name: KIND_NAMES.scorecard,
  question: "How do we stand, KPI by KPI?",
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "scorecard", groups: [{ title: "KPIs", kpis: [...kpis] }] }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
