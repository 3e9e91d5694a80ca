import { isReadable, type PlacedPanel } from "#contract/pack.ts";

/** What a panel is called in a sentence: by its title, or by its kind. */
export function panelName({ key, definition }: Pick<PlacedPanel, "key" | "definition">): string {
  if (definition.title) return `“${definition.title}”`;
  return isReadable(definition)
    ? `the ${definition.kind.replace("time-chart", "chart over time")}`
    : `the panel "${key}"`;
}
