import type { Choice } from "../../ui/choice-word.tsx";
import type { BridgeStart } from "#core/panels/bridge/schema.ts";

/** The ways a bridge can lead, as they are chosen. */
export const START_CHOICES: readonly (Choice & { readonly key: BridgeStart })[] = [
  { key: "basis", name: "from what the page compares with to the actual" },
  { key: "prior-year", name: "from the prior year to the actual" },
  { key: "prior-period", name: "from the prior period to the actual" },
  { key: "to-date", name: "from the year to date to the year’s end" },
];

/** The way a bridge leads, in words: "from Budget to Actual". */
export function startWords(from: BridgeStart, start: string): string {
  return from === "to-date" ? "from the year to date to the year’s end" : `from ${start} to Actual`;
}
