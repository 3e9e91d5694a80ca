import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { lacksDimension } from "../../panel-frame/lacks.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const share: PanelView<"share"> = {
  question: "What is it made up of, and how close is the target?",
  also: ["part of the whole", "ring or pie", "progress to target", "what is left to target", "attainment"],
  follows: true,
  fills: false,
  lacks: lacksDimension,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "share",
    kpi: kpis[0]!,
    by: { dimension: dimensions[0]?.key ?? "", level: null },
    of: "whole",
    shape: "ring",
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
