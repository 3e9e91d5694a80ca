import { z } from "zod";
import { isSame, type Records } from "#core/history/records-diff.ts";
import type { MergeRules } from "#core/history/merge-diff.ts";
import { readingOrder } from "#core/layout/place.ts";
import { scopeSchema } from "#core/frame/schema.ts";
import { packStartSchema, type Pack, type Page, type PlacedPanel, isReadable } from "./pack.ts";
import { pageLookSchema } from "./page-look.ts";
import { placeSchema } from "./place.ts";
import { panelKeySchema } from "#core/panels/panel-schema.ts";
import { readStoredPanel, storePanel } from "./stored-panel.ts";

/** A pack as its history keeps it. */
export const packRecordSchema = z.object({
  name: z.string().trim().min(1, "a pack needs a name").max(120),
  starts: packStartSchema.optional(),
  isRetired: z.boolean().optional(),
  position: z.number(),
});
/** A page, without its panels. */
export const pageRecordSchema = z.object({
  name: z.string().trim().min(1, "a page needs a name").max(120),
  group: z.string().trim().min(1).max(80).optional(),
  scope: scopeSchema,
  look: pageLookSchema,
  position: z.number(),
});
/** A panel: its definition as it is stored, with its form, and its place. */
export const panelRecordSchema = z.object({ definition: z.record(z.string(), z.unknown()), place: placeSchema });

export type PackRecord = z.infer<typeof packRecordSchema>;
export type PageRecord = z.infer<typeof pageRecordSchema>;
export type PanelRecord = z.infer<typeof panelRecordSchema>;

/** What a record of a pack is of. */
export type PackRecordName =
  | { readonly kind: "pack"; readonly pack: string }
  | { readonly kind: "page"; readonly pack: string; readonly page: string }
  | { readonly kind: "panel"; readonly pack: string; readonly page: string; readonly panel: string };

/** The name under which a pack, a page or a panel is kept. */
export function recordName(name: PackRecordName): string {
  switch (name.kind) {
    case "pack":
      return `pack/${name.pack}`;
    case "page":
      return `page/${name.pack}/${name.page}`;
    case "panel":
      return `panel/${name.pack}/${name.page}/${name.panel}`;
  }
}

/** Reads a record's name; `undefined` where it is none. */
export function parseRecordName(text: string): PackRecordName | undefined {
  const [kind, ...keys] = text.split("/");
  if (!keys.every((key) => panelKeySchema.safeParse(key).success)) return undefined;
  const [pack, page, panel, ...rest] = keys;
  if (pack === undefined || rest.length > 0) return undefined;
  if (kind === "pack" && page === undefined) return { kind, pack };
  if (page === undefined) return undefined;
  if (kind === "page" && panel === undefined) return { kind, pack, page };
  return kind === "panel" && panel !== undefined ? { kind, pack, page, panel } : undefined;
}

/** Places and orders are decided by who changes them last: nobody's work is lost by it. */
export const PACK_MERGE: MergeRules = { isLoose: (setting) => setting === "place" || setting === "position" };

/** A panel as a record. */
export function panelRecord({ definition, place }: Pick<PlacedPanel, "definition" | "place">): PanelRecord {
  return { definition: isReadable(definition) ? storePanel(definition) : definition.stored, place };
}

/** A record as a panel; one that cannot be read says why. */
export function panelOf(key: string, { definition, place }: PanelRecord): PlacedPanel {
  return { key, definition: readStoredPanel(definition, key), place };
}

/** A page without its panels, as a record. */
export function pageRecord({
  name,
  group,
  scope,
  look,
  position,
}: Omit<Page, "panels" | "key" | "problem">): PageRecord {
  return { name, ...(group === undefined ? {} : { group }), scope, look, position };
}

/** A pack without its pages, as a record. */
export function packRecord({ written, starts, isRetired, position }: Omit<Pack, "pages">): PackRecord {
  return { name: written, ...(starts ? { starts } : {}), ...(isRetired ? { isRetired } : {}), position };
}

/** Everything of a page under its records' names. */
export function recordsOfPage(pack: string, page: Page): Record<string, PageRecord | PanelRecord> {
  return {
    [recordName({ kind: "page", pack, page: page.key })]: pageRecord(page),
    ...Object.fromEntries(
      page.panels.map((panel) => [
        recordName({ kind: "panel", pack, page: page.key, panel: panel.key }),
        panelRecord(panel),
      ]),
    ),
  };
}

/** Everything of a pack under its records' names. */
export function recordsOfPack(pack: Pack): Record<string, PackRecord | PageRecord | PanelRecord> {
  return {
    [recordName({ kind: "pack", pack: pack.key })]: packRecord(pack),
    ...Object.fromEntries(pack.pages.flatMap((page) => Object.entries(recordsOfPage(pack.key, page)))),
  };
}

/**
 * A pack with other records. What did not change keeps its identity, so that what shows it need not be drawn anew.
 */
export function withRecords(pack: Pack, records: Records): Pack {
  const own = records[recordName({ kind: "pack", pack: pack.key })] as PackRecord | undefined;
  const pages = new Map<string, { record: PageRecord; panels: PlacedPanel[] }>();
  const known = new Map(pack.pages.map((page) => [page.key, page]));
  for (const [name, record] of Object.entries(records)) {
    const read = parseRecordName(name);
    if (read?.kind === "page") pages.set(read.page, { record: record as PageRecord, panels: [] });
  }
  for (const [name, record] of Object.entries(records)) {
    const read = parseRecordName(name);
    if (read?.kind !== "panel") continue;
    const before = known.get(read.page)?.panels.find((panel) => panel.key === read.panel);
    const isKept = before && isSame(panelRecord(before), record);
    pages.get(read.page)?.panels.push(isKept ? before : panelOf(read.panel, record as PanelRecord));
  }
  return {
    ...pack,
    ...(own
      ? {
          written: own.name,
          name: own.name === pack.written ? pack.name : own.name,
          starts: own.starts,
          isRetired: own.isRetired ?? false,
          position: own.position,
        }
      : {}),
    pages: [...pages]
      .map(([key, { record, panels }]): Page => ({
        ...pageRecord(record),
        key,
        panels: inReadingOrder(panels),
        problem: known.get(key)?.problem ?? null,
      }))
      .sort((a, b) => a.position - b.position || (a.key < b.key ? -1 : 1)),
  };
}

/** Panels in the order in which their page is read. */
export function inReadingOrder(panels: readonly PlacedPanel[]): PlacedPanel[] {
  const order = readingOrder(Object.fromEntries(panels.map((panel) => [panel.key, panel.place])));
  return order.map((key) => panels.find((panel) => panel.key === key)!);
}
