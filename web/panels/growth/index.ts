import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const growth: PanelView<"growth"> = {
  question: "Is growth speeding up?",
  also: ["change on the prior year", "change on the prior month", "growth by member"],
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
