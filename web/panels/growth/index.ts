import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const growth: PanelView<"growth"> = {
  name: KIND_NAMES.growth,
  question: "Does it accelerate?",
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({
    key,
    kind: "growth",
    kpi: kpis[0]!,
    on: "prior-year",
    by: { kind: "time", grain: "month", last: null },
    ranges: null,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
