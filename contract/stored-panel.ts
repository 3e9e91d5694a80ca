import type { z } from "zod";
import { PANEL_SCHEMAS, type PanelDefinition, type PanelKind } from "#core/panels/schemas.ts";
import type { Migration } from "#core/panels/panel-schema.ts";
import type { UnreadablePanel } from "./pack.ts";

/** What reading a stored panel needs to know of its kind. */
interface StoredForm {
  readonly form: number;
  readonly migrations: readonly Migration[];
  readonly definition: z.ZodType;
}

/** A panel's definition as it is written to the database, with the form that it is written in. */
export function storePanel(panel: PanelDefinition): Record<string, unknown> {
  return { ...panel, form: PANEL_SCHEMAS[panel.kind].form };
}

/**
 * Reads a panel as it was stored, by whatever earlier version of Hackle. What cannot be read
 * becomes a placeholder that says why; it never keeps its page, or others, from being read.
 */
export function readStoredPanel(
  stored: unknown,
  key: string,
  contracts: Readonly<Record<string, StoredForm>> = PANEL_SCHEMAS,
): PanelDefinition | UnreadablePanel {
  const record = typeof stored === "object" && stored !== null ? (stored as Readonly<Record<string, unknown>>) : {};
  const { kind, title, form = 1 } = record;
  const unreadable = (reason: string): UnreadablePanel => ({
    key,
    kind: "unreadable",
    ...(typeof title === "string" ? { title } : {}),
    reason,
    stored: record,
  });
  const contract =
    typeof kind === "string" && Object.hasOwn(contracts, kind) ? contracts[kind as PanelKind] : undefined;
  if (!contract) return unreadable(`It is of the kind "${String(kind)}", which this version of Hackle does not have.`);
  if (typeof form !== "number" || form > contract.form)
    return unreadable(
      `It was made by a later version of Hackle (form ${String(form)}; this one reads up to ${contract.form}).`,
    );
  const { form: _, ...asStored } = record as Record<string, unknown>;
  let definition: Record<string, unknown> = asStored;
  try {
    for (const migrate of contract.migrations.slice(form - 1)) definition = migrate(definition);
  } catch (error) {
    return unreadable(`It could not be updated to the current format: ${(error as Error).message}`);
  }
  const parsed = contract.definition.safeParse(definition);
  if (parsed.success) return parsed.data as PanelDefinition;
  const [issue] = parsed.error.issues;
  return unreadable(
    `Its definition does not hold at "${issue?.path.join(".") ?? ""}": ${issue?.message ?? "unknown"}.`,
  );
}
