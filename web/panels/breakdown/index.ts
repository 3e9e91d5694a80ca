import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { lacksDimension } from "../../panel-frame/lacks.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const breakdown: PanelView<"breakdown"> = {
  question: "Who makes it, and who is off plan?",
  also: ["ranking", "sorted bars", "top 10", "clustered or stacked bars", "bars by member"],
  follows: true,
  fills: false,
  lacks: lacksDimension,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "breakdown",
    kpis: kpis.slice(0, 1),
    by: { dimension: dimensions[0]?.key ?? "", level: null },
    cluster: null,
    stacking: "clustered",
    order: "value",
    isReversed: false,
    // As many bars as are read at a glance; the rest is gathered.
    top: 12,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
