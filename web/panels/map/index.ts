import { lazy } from "react";
import { lazyPart } from "../../ui/lazy-part.ts";
import { lacksDimension } from "../../panel-frame/lacks.ts";
import type { PanelView } from "../../panel-frame/panel-view.ts";

export const map: PanelView<"map"> = {
  question: "Where?",
  also: ["by country", "geography"],
  follows: true,
  fills: true,
  lacks: lacksDimension,
  create: ({ key, kpis, dimensions }) => ({
    key,
    kind: "map",
    kpi: kpis[0]!,
    by: {
      dimension:
        (dimensions.find(({ name, levels }) => /countr|market/i.test(`${name} ${levels.join(" ")}`)) ?? dimensions[0])
          ?.key ?? "",
      level: null,
    },
    colour: "judgement",
  }),
  Panel: lazyPart(() => import("./panel.tsx")),
  Arrange: lazy(() => import("./arrange.tsx")),
};
