import { z } from "zod";
import { moneyUnitSchema, scopeSchema } from "#core/frame/schema.ts";
import { PANEL_KINDS } from "#core/panels/schemas.ts";
import type { Place } from "#core/layout/place.ts";
import { recordsDiffSchema } from "./records-diff.ts";
import { pageLookSchema, type PageLook } from "./page-look.ts";
import { panelSchema, type PanelDefinition, type PanelKind } from "#core/panels/schemas.ts";
import { panelKeySchema } from "#core/panels/panel-schema.ts";
import { placeSchema } from "./place.ts";

/** A page holds at most this many panels, a pack this many pages. */
export const MOST_PANELS = 60;
export const MOST_PAGES = 100;

/** A stored panel that cannot be read: it keeps its place and says why, and nothing of it is lost. */
export const unreadablePanelSchema = z.object({
  key: z.string(),
  kind: z.literal("unreadable"),
  title: z.string().optional(),
  reason: z.string(),
  stored: z.record(z.string(), z.unknown()),
});
export type UnreadablePanel = z.infer<typeof unreadablePanelSchema>;

/** A panel as a page has it. */
export interface PlacedPanel {
  readonly key: string;
  readonly definition: PanelDefinition | UnreadablePanel;
  readonly place: Place;
}

const placedPanelSchema: z.ZodType<PlacedPanel> = z.object({
  key: z.string(),
  definition: z.union([panelSchema, unreadablePanelSchema]),
  place: placeSchema,
});

/** A page; its scope holds until the reader chooses another. Its panels are in reading order. */
export const pageSchema = z.object({
  key: panelKeySchema,
  name: z.string(),
  /** The heading it stands under in the navigation. */
  group: z.string().optional(),
  scope: scopeSchema,
  look: pageLookSchema,
  position: z.number(),
  panels: z.array(placedPanelSchema).readonly(),
  /** Why the page cannot be read as it is stored; `null` when it can. */
  problem: z.string().nullable(),
});

/** Stands in a pack's name for the last closed month, so that the name rolls forward with it. */
export const MONTH_IN_NAME = "{month}";

/** A pack's name as a history has it, which is of no month: "Monthly review". */
export function namedAtAllTimes(written: string): string {
  const name = written.replaceAll(MONTH_IN_NAME, "monthly");
  return name.charAt(0).toUpperCase() + name.slice(1);
}

/** What a pack's frame starts from where it is not the company's books. */
export const packStartSchema = z.object({
  dataset: z.string(),
  basis: z.string(),
  unit: moneyUnitSchema,
  span: z.string().optional(),
});

/** A management review: pages in an order. */
export const packSchema = z.object({
  key: panelKeySchema,
  name: z.string(),
  /** Its name as it was written, before the month took its place. */
  written: z.string(),
  starts: packStartSchema.optional(),
  /** Whether it is out of use: kept, but in no list of those that are read. */
  isRetired: z.boolean(),
  position: z.number(),
  pages: z.array(pageSchema).readonly(),
  problem: z.string().nullable(),
});

export const packListSchema = z
  .array(
    packSchema.pick({ key: true, name: true, written: true, isRetired: true, position: true, problem: true }).extend({
      pages: z.array(pageSchema.pick({ key: true, name: true, group: true })).readonly(),
    }),
  )
  .readonly();

/** An edit of a pack: what it changes, and a name by which it is known to be done already when it comes twice. */
export const packEditSchema = z.object({
  edit: z.uuid(),
  diff: recordsDiffSchema,
  /** The edit that this one takes back, where it does. */
  takesBack: z.uuid().optional(),
});

/** After which of its changes a page is to be as it was. */
export const restoreSchema = z.object({ change: z.number().int() });

/** What a change of a pack led to: the pack as it is then, and the number of the change, by which it is taken back. */
export const packChangedSchema = z.object({ pack: packSchema, change: z.number().int().nullable() });

export type Pack = z.infer<typeof packSchema>;
export type Page = z.infer<typeof pageSchema>;
export type PackList = z.infer<typeof packListSchema>;
export type PackChanged = z.infer<typeof packChangedSchema>;
export type PackEdit = z.infer<typeof packEditSchema>;

/** A pack as a program writes it down to begin with; panels without a place stand one behind the other. */
export interface PackDraft {
  readonly key: string;
  readonly name: string;
  readonly starts?: z.infer<typeof packStartSchema>;
  readonly pages: readonly {
    readonly key: string;
    readonly name: string;
    readonly group?: string;
    readonly scope: z.infer<typeof scopeSchema>;
    readonly look?: PageLook;
    readonly panels: readonly (PanelDefinition & { readonly place?: Place })[];
  }[];
}

/** Whether a panel can be read, and so shown and arranged. */
export function isReadable<P extends { readonly kind: string }>(panel: P): panel is Exclude<P, UnreadablePanel> {
  return PANEL_KINDS.includes(panel.kind as PanelKind);
}

/** The panels of a page that can be shown, in reading order. */
export function readablePanels(page: Pick<Page, "panels">): (PlacedPanel & { readonly definition: PanelDefinition })[] {
  return page.panels.filter((panel): panel is PlacedPanel & { definition: PanelDefinition } =>
    isReadable(panel.definition),
  );
}
