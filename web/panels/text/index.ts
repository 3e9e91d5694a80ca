import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const text: PanelView<"text"> = {
  question: "What is the message?",
  also: ["comment", "note", "figures in a sentence"],
  follows: false,
  fills: false,
  create: ({ key, kpis }) => ({
    key,
    kind: "text",
    text: kpis
      .slice(0, 2)
      .map((kpi) => `{${kpi}}: {${kpi} words}.`)
      .join("\n\n"),
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
