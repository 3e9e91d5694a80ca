import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const heat: PanelView<"heat"> = {
  question: "Where and when are the highs and lows?",
  also: ["heat map", "weekday by month", "calendar of days"],
  follows: true,
  fills: false,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "heat",
    kpi: kpis[0]!,
    rows: dimensions[0] ? { kind: "member", dimension: dimensions[0].key, level: null } : { kind: "year" },
    columns: { kind: "month" },
    shade: "value",
    years: dimensions[0] ? 1 : 3,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
