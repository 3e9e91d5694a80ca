import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../panel-view.ts";

export const season: PanelView<"season"> = {
  name: "a season",
  question: "Is this a normal month?",
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
