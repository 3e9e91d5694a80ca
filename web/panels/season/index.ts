import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const season: PanelView<"season"> = {
  question: "Is this a normal month?",
  also: [
    "this year against the average of earlier years",
    "years over each other",
    "least, most and average by month",
    "small charts by year",
    "seasonality",
  ],
  follows: true,
  fills: true,
  create: ({ key, kpis }) => ({
    key,
    kind: "season",
    kpi: kpis[0]!,
    view: "band",
    years: 3,
    countsStudied: false,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
