import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const tiles: PanelView<"tiles"> = {
  question: "What is the key figure, and what is behind it?",
  also: ["one big number", "a number for each member", "cards"],
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({
    key,
    kind: "tiles",
    kpis: [...kpis],
    repeatBy: null,
    order: "set",
    isReversed: false,
    top: null,
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
