import { z } from "zod";
import { moneyUnitSchema, scopeSchema } from "./frame.ts";
import { PANEL_KINDS } from "#core/panels/index.ts";
import { panelSchema, type PanelDefinition, type PanelKind } from "./panels/index.ts";
import { panelKeySchema } from "./panels/panel-contract.ts";

/** A page holds at most this many panels. */
export const MOST_PANELS = 60;

/** A stored panel that cannot be read: it keeps its place and says why. */
export const unreadablePanelSchema = z.object({
  key: z.string(),
  kind: z.literal("unreadable"),
  title: z.string().optional(),
  reason: z.string(),
});
export type UnreadablePanel = z.infer<typeof unreadablePanelSchema>;

/** A panel as a page has it: `version` counts its changes; a change names the version it was made on. */
export type PlacedPanel = (PanelDefinition | UnreadablePanel) & { readonly version: number };

const placedPanelSchema: z.ZodType<PlacedPanel> = z.intersection(
  z.union([panelSchema, unreadablePanelSchema]),
  z.object({ version: z.number().int() }),
);

/** A page; its scope holds until the reader chooses another. */
export const pageSchema = z.object({
  key: panelKeySchema,
  name: z.string(),
  scope: scopeSchema,
  version: z.number().int(),
  panels: z.array(placedPanelSchema).readonly(),
  /** Why the page cannot be read as it is stored; `null` when it can. */
  problem: z.string().nullable(),
});

/** Stands in a pack's name for the last closed month, so that the name rolls forward with it. */
export const MONTH_IN_NAME = "{month}";

/** What a pack's frame starts from where it is not the company's books. */
export const packStartSchema = z.object({ dataset: z.string(), basis: z.string(), unit: moneyUnitSchema });

/** A management review: pages in an order. */
export const packSchema = z.object({
  key: panelKeySchema,
  name: z.string(),
  starts: packStartSchema.optional(),
  version: z.number().int(),
  pages: z.array(pageSchema).readonly(),
  problem: z.string().nullable(),
});

export const packListSchema = z
  .array(
    z.object({
      key: z.string(),
      name: z.string(),
      pages: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
      problem: z.string().nullable(),
    }),
  )
  .readonly();

/** A panel put on a page: behind another one, or in front of all where `after` is `null`; last where nothing is said. */
export const panelAddSchema = z.object({ panel: panelSchema, after: z.string().nullable().optional() });
/** A panel arranged anew, on top of the version that it was made from. */
export const panelChangeSchema = z.object({ panel: panelSchema, version: z.number().int() });
/** Which version of a panel is taken off its page. */
export const panelRemoveSchema = z.object({ version: z.coerce.number().int() });

/** What a change of a page led to: the pack as it is then, and the number of the change, by which it is taken back. */
export const packChangedSchema = z.object({ pack: packSchema, change: z.number().int().nullable() });

export type Pack = z.infer<typeof packSchema>;
export type Page = z.infer<typeof pageSchema>;
export type PackList = z.infer<typeof packListSchema>;
export type PackChanged = z.infer<typeof packChangedSchema>;

/** A pack as a program writes it down to begin with: without versions. */
export interface PackDraft {
  readonly key: string;
  readonly name: string;
  readonly starts?: z.infer<typeof packStartSchema>;
  readonly pages: readonly {
    readonly key: string;
    readonly name: string;
    readonly scope: z.infer<typeof scopeSchema>;
    readonly panels: readonly PanelDefinition[];
  }[];
}

/** Whether a panel can be read, and so shown and arranged. */
export function isReadable<P extends { readonly kind: string }>(panel: P): panel is Exclude<P, UnreadablePanel> {
  return PANEL_KINDS.includes(panel.kind as PanelKind);
}
