import { kindName } from "#core/panels/schemas.ts";
import { isReadable, type PlacedPanel } from "#contract/pack.ts";

/** What a panel is called in a sentence: by its title, or by its kind. */
export function panelName({ key, definition }: Pick<PlacedPanel, "key" | "definition">): string {
  if (definition.title) return `“${definition.title}”`;
  return isReadable(definition) ? kindName(definition.kind).replace(/^(an? )?/, "the ") : `the panel "${key}"`;
}
