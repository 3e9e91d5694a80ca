import type { z } from "zod";
import { PANEL_SCHEMAS, type PanelDefinition } from "./schemas.ts";

/**
 * A panel as another kind: `fresh` is a new one of that kind, into which everything goes that it can hold too, as its
 * title, its KPIs and what it keeps of the frame. What does not fit is left out.
 */
export function asKind(panel: PanelDefinition, fresh: PanelDefinition): PanelDefinition {
  const { definition } = PANEL_SCHEMAS[fresh.kind] as unknown as { definition: z.ZodObject };
  const shape = definition.shape as Readonly<Record<string, z.ZodType>>;
  const fitting = Object.entries(panel).filter(
    ([part, value]) => part !== "kind" && shape[part]?.safeParse(value).success && value !== undefined,
  );
  const made = definition.safeParse({ ...fresh, ...Object.fromEntries(fitting), key: panel.key });
  return made.success ? (made.data as PanelDefinition) : { ...fresh, key: panel.key };
}
