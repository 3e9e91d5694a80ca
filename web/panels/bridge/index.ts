import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const bridge: PanelView<"bridge"> = {
  question: "What explains the change?",
  also: ["waterfall", "from budget to actual", "from prior year to actual", "price, volume and mix"],
  follows: true,
  fills: false,
  create: ({ key, kpis }) => ({
    key,
    kind: "bridge",
    kpi: kpis[0]!,
    from: "basis",
    by: { kind: "account" },
    order: "tree",
    top: 12,
    hasSubtotals: true,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
