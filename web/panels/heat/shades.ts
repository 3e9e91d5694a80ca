import type { Choice } from "../../ui/choice-word.tsx";
import type { HeatShade } from "#core/panels/heat/schema.ts";

/** What shades can tell, as it is chosen. */
export const SHADE_CHOICES: readonly (Choice & { readonly key: HeatShade })[] = [
  { key: "value", name: "shaded by value" },
  { key: "delta-percent", name: "shaded by Δ%" },
  { key: "judgement", name: "shaded by judgement" },
];
