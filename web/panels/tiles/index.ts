import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const tiles: PanelView<"tiles"> = {
  name: KIND_NAMES.tiles,
  question: "What is the one figure, and what stands behind it?",
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
