import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { KIND_NAMES } from "#core/panels/kinds.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const text: PanelView<"text"> = {
  name: KIND_NAMES.text,
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
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
