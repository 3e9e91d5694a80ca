import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const scatter: PanelView<"scatter"> = {
  question: "Are two KPIs related?",
  also: ["correlation", "two KPIs against each other", "fitted line"],
  follows: false,
  fills: true,
  lacks: ({ kpis, otherKpis }) =>
    kpis.length + otherKpis.length > 1 ? null : "This panel needs two KPIs, and there is only one.",
  create: ({ key, kpis, otherKpis, dimensions }) => ({
    key,
    kind: "scatter",
    x: kpis[0]!,
    y: kpis[1] ?? otherKpis[0]!,
    size: null,
    by: dimensions[0]
      ? { kind: "member", dimension: dimensions[0].key, level: dimensions[0].levels.at(-1) ?? null }
      : { kind: "period", grain: "month", last: 24 },
    quadrants: "average",
    hasLine: true,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
