import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const season: PanelView<"season"> = {
  name: KIND_NAMES.season,
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
