import type { PanelDefinition } from "#core/panels/schemas.ts";

const FITTING: ReadonlySet<PanelDefinition["kind"]> = new Set([
  "expected-range",
  "outlook",
  "time-chart",
  "tiles",
  "scorecard",
]);

/** Whether a panel is of a kind that fits models where it is arranged so, which takes long the first time. */
export const mayFit = ({ kind }: PanelDefinition): boolean => FITTING.has(kind);
