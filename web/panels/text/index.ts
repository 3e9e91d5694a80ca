import { lazy } from "react";
import type { PanelView } from "../panel-view.ts";

export const text: PanelView<"text"> = {
  name: "a text",
  question: "What is the message?",
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
  Panel: lazy(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
