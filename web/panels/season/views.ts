import type { Choice } from "../../ui/choice-word.tsx";
import type { SeasonView } from "#core/panels/season/schema.ts";

/** The ways a year is seen against others, as they are chosen. */
export const VIEW_CHOICES: readonly (Choice & { readonly key: SeasonView })[] = [
  { key: "overlay", name: "years over each other" },
  { key: "band", name: "over the range of the other years" },
  { key: "small", name: "a small chart for each year" },
  { key: "against", name: "against the average" },
  { key: "next", name: "next year, if like the past" },
];
