import type { ComponentType, LazyExoticComponent } from "react";
import type { PanelDefinition, PanelKind } from "#core/panels/schemas.ts";
import type { LazyPart } from "../ui/lazy-part.ts";
import type { ArrangeProps, NewPanel, PanelProps, PanelView } from "../panel-frame/panel-view.ts";
import { heat } from "./heat/index.ts";
import { accuracy } from "./accuracy/index.ts";
import { expectedRange } from "./expected-range/index.ts";
import { outlook } from "./outlook/index.ts";
import { scatter } from "./scatter/index.ts";
import { growth } from "./growth/index.ts";
import { season } from "./season/index.ts";
import { share } from "./share/index.ts";
import { map } from "./map/index.ts";
import { crossTab } from "./cross-tab/index.ts";
import { bridge } from "./bridge/index.ts";
import { breakdown } from "./breakdown/index.ts";
import { chooser } from "./chooser/index.ts";
import { scorecard } from "./scorecard/index.ts";
import { text } from "./text/index.ts";
import { tiles } from "./tiles/index.ts";
import { timeChart } from "./time-chart/index.ts";

/** All kinds of panels, as they are drawn and arranged. */
export const PANEL_VIEWS: { readonly [K in PanelKind]: PanelView<K> } = {
  scorecard,
  tiles,
  "time-chart": timeChart,
  bridge,
  breakdown,
  heat,
  scatter,
  "expected-range": expectedRange,
  accuracy,
  growth,
  outlook,
  season,
  share,
  map,
  "cross-tab": crossTab,
  text,
  chooser,
};

/** A view of any kind: the one place where a kind known at run time only meets the types of its own. */
export interface AnyPanelView extends Omit<PanelView<PanelKind>, "create" | "Panel" | "Arrange"> {
  readonly create: (of: NewPanel) => PanelDefinition;
  readonly Panel: LazyPart<PanelProps<PanelKind>>;
  readonly Arrange: LazyExoticComponent<ComponentType<ArrangeProps<PanelKind>>>;
}

/** The view of a panel's kind. */
export function viewOf(kind: PanelKind): AnyPanelView {
  return PANEL_VIEWS[kind];
}
