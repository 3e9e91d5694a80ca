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
import type { PanelKind } from "./schemas.ts";
import { scorecard } from "./scorecard/index.ts";
import { text } from "./text/index.ts";
import { tiles } from "./tiles/index.ts";
import { timeChart } from "./time-chart/index.ts";

/** All kinds of panels, as they are computed. The contract and the web have a record over the same kinds. */
export const PANEL_COMPUTATIONS = {
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
} as const satisfies Record<PanelKind, unknown>;
