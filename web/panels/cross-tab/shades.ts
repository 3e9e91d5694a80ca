import type { Choice } from "../../ui/choice-word.tsx";
import type { CrossShade } from "#core/panels/cross-tab/schema.ts";

/** What shades can tell, as it is chosen. */
export const SHADE_CHOICES: readonly (Choice & { readonly key: CrossShade })[] = [
  { key: "none", name: "not shaded" },
  { key: "value", name: "shaded by value" },
  { key: "judgement", name: "shaded by judgement" },
];
