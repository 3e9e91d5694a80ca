import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const outlook: PanelView<"outlook"> = {
  name: KIND_NAMES.outlook,
  question: "Where do we end the year?",
  follows: true,
  fills: false,
  create: ({ key, kpis }) => ({ key, kind: "outlook", kpi: kpis[0]! }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
