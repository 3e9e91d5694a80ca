import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../panel-view.ts";

export const heat: PanelView<"heat"> = {
  name: "a heat grid",
  question: "Where and when at once?",
  follows: true,
  fills: false,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "heat",
    kpi: kpis[0]!,
    rows: { kind: "member", dimension: dimensions[0]?.key ?? "", level: null },
    columns: { kind: "month" },
    shade: "value",
    years: 1,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
