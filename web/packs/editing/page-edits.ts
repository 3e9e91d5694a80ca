import type { Records } from "#core/history/records-diff.ts";
import { closeUp, rowsOf } from "#core/layout/close-up.ts";
import { freePlace } from "#core/layout/put.ts";
import type { Place, Places } from "#core/layout/place.ts";
import { newKey } from "#core/reading/names.ts";
import type { PageLook } from "#contract/page-look.ts";
import { isReadable, type Page, type PlacedPanel } from "#contract/pack.ts";
import {
  pageRecord,
  panelRecord,
  parseRecordName,
  recordName,
  type PackRecord,
  type PageRecord,
  type PanelRecord,
} from "#contract/pack-records.ts";
import { panelSize, type PanelDefinition } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";

/** A page, by its keys. */
export interface PagePlace {
  readonly pack: string;
  readonly page: string;
}

/** What an edit makes of a pack's records. */
export type RecordsEdit = (records: Records) => Records;

/** A panel to put somewhere: from the rack, from the clipboard, or from another page. */
export interface PanelToPut {
  readonly definition: PlacedPanel["definition"];
  readonly size: { readonly w: number; readonly h: number };
  /** Whether it must not be made narrower to stand beside others, as a copy. */
  readonly keepsSize?: boolean;
  /** Where it is put; the first free place where nothing is said. */
  readonly place?: Place;
}

const nameOf = ({ pack, page }: PagePlace, panel: string) => recordName({ kind: "panel", pack, page, panel });
const pageName = ({ pack, page }: PagePlace) => recordName({ kind: "page", pack, page });

/** The panels of a page among a pack's records, by their keys. */
export function panelsOn(records: Records, place: PagePlace): Map<string, PanelRecord> {
  const start = nameOf(place, "");
  return new Map(
    Object.entries(records).flatMap(([name, record]) =>
      name.startsWith(start) ? [[name.slice(start.length), record as PanelRecord]] : [],
    ),
  );
}

/** Where a page's panels stand. */
export function placesOn(records: Records, place: PagePlace): Places {
  return Object.fromEntries([...panelsOn(records, place)].map(([key, record]) => [key, record.place]));
}

/** Puts a page's panels in other places. */
export function withPlaces(records: Records, place: PagePlace, places: Places): Records {
  const next: Record<string, unknown> = { ...records };
  for (const [key, to] of Object.entries(places)) {
    const name = nameOf(place, key);
    const own = next[name] as PanelRecord | undefined;
    if (own) next[name] = { ...own, place: { x: to.x, y: to.y, w: to.w, h: to.h } };
  }
  return next;
}

/** Arranges a panel. */
export function withPanel(records: Records, place: PagePlace, panel: PanelDefinition): Records {
  const name = nameOf(place, panel.key);
  const own = records[name] as PanelRecord | undefined;
  return own ? { ...records, [name]: { ...own, definition: storePanel(panel) } } : records;
}

/** Takes panels off a page; the others close up. */
export function withoutPanels(records: Records, place: PagePlace, keys: readonly string[]): Records {
  const gone = new Set(keys.map((key) => nameOf(place, key)));
  const next = Object.fromEntries(Object.entries(records).filter(([name]) => !gone.has(name)));
  return withPlaces(next, place, closeUp(placesOn(next, place)));
}

/** Puts panels on a page, each under a key that is free there. Returns the keys they have now. */
export function putPanels(
  records: Records,
  place: PagePlace,
  panels: readonly PanelToPut[],
): { records: Records; keys: string[] } {
  let next: Records = records;
  const keys: string[] = [];
  for (const { definition, size, keepsSize = false, place: wanted } of panels) {
    const places = placesOn(next, place);
    const key = newKey(isReadable(definition) ? definition.kind : definition.key, new Set(Object.keys(places)), "-");
    const own: PlacedPanel = {
      key,
      definition: { ...definition, key },
      place: wanted ?? freePlace(places, size, { keepsSize }),
    };
    const record = panelRecord(own);
    next = { ...next, [nameOf(place, key)]: { ...record, definition: { ...record.definition, key } } };
    next = withPlaces(next, place, closeUp(placesOn(next, place), [key]));
    keys.push(key);
  }
  return { records: next, keys };
}

/** A new panel of a kind in the size it is best put in. */
export function panelToPut(definition: PanelDefinition, place?: Place): PanelToPut {
  return { definition, size: panelSize(definition), ...(place ? { place } : {}) };
}

/** Panels of a page, as they are copied. */
export function copyOf(page: Page, keys: readonly string[]): PanelToPut[] {
  return page.panels
    .filter((panel) => keys.includes(panel.key))
    .map(({ definition, place: { w, h } }) => ({ definition, size: { w, h }, keepsSize: true }));
}

/** Changes what a page says and does besides its panels. `undefined` leaves a part to its default. */
export function withLook(records: Records, place: PagePlace, change: Partial<PageLook>): Records {
  return withPage(records, place, ({ look, ...page }) => ({
    ...page,
    look: Object.fromEntries(Object.entries({ ...look, ...change }).filter(([, value]) => value !== undefined)),
  }));
}

/** Changes a page itself: its name, its group, its scope, its place among the others. */
export function withPage(records: Records, place: PagePlace, change: (page: PageRecord) => PageRecord): Records {
  const name = pageName(place);
  const own = records[name] as PageRecord | undefined;
  return own ? { ...records, [name]: change(own) } : records;
}

/** The pages of a pack in their order. */
export function pagesOf(records: Records, pack: string): { key: string; record: PageRecord }[] {
  return Object.entries(records)
    .flatMap(([name, record]) => {
      const read = parseRecordName(name);
      return read?.kind === "page" && read.pack === pack ? [{ key: read.page, record: record as PageRecord }] : [];
    })
    .sort((a, b) => a.record.position - b.record.position || (a.key < b.key ? -1 : 1));
}

/** A position behind a page, before the one that follows it. */
function positionBehind(records: Records, pack: string, after: string | null): number {
  const pages = pagesOf(records, pack);
  const at = after === null ? pages.length - 1 : pages.findIndex(({ key }) => key === after);
  const [before, behind] = [pages[at]?.record.position, pages[at + 1]?.record.position];
  if (before === undefined) return 0;
  return behind === undefined ? before + 1 : (before + behind) / 2;
}

/** Adds an empty page behind another one, or as the last. Returns its key. */
export function addPage(
  records: Records,
  pack: string,
  {
    name,
    after = null,
    group,
    look = {},
  }: { name: string; after?: string | null; group?: string | undefined; look?: PageLook },
): { records: Records; key: string } {
  const key = newKey(name, new Set(pagesOf(records, pack).map((page) => page.key)), "-");
  const record: PageRecord = {
    name,
    ...(group === undefined ? {} : { group }),
    scope: {},
    look,
    position: positionBehind(records, pack, after),
  };
  return { records: { ...records, [pageName({ pack, page: key })]: record }, key };
}

/** Puts a copy of a page, from this pack or another one, behind a page of a pack. Returns its key. */
export function copyPage(
  records: Records,
  pack: string,
  page: Page,
  { name = page.name, after = null }: { name?: string; after?: string | null } = {},
): { records: Records; key: string } {
  const added = addPage(records, pack, { name, after });
  const place = { pack, page: added.key };
  const next: Record<string, unknown> = {
    ...added.records,
    [pageName(place)]: {
      ...pageRecord(page),
      name,
      position: (added.records[pageName(place)] as PageRecord).position,
    },
  };
  for (const panel of page.panels) next[nameOf(place, panel.key)] = panelRecord(panel);
  return { records: next, key: added.key };
}

/** Takes a page out of its pack, with all that stands on it. */
export function withoutPage(records: Records, place: PagePlace): Records {
  const below = nameOf(place, "");
  return Object.fromEntries(
    Object.entries(records).filter(([name]) => name !== pageName(place) && !name.startsWith(below)),
  );
}

/** Moves a page among the others of its pack. */
export function movePage(records: Records, place: PagePlace, by: -1 | 1): Records {
  const pages = pagesOf(records, place.pack);
  const at = pages.findIndex(({ key }) => key === place.page);
  const other = pages[at + by];
  if (at < 0 || !other) return records;
  const beyond = pages[at + 2 * by];
  const position = beyond ? (other.record.position + beyond.record.position) / 2 : other.record.position + by;
  return withPage(records, place, (page) => ({
    ...page,
    position,
    // A page that moves past a heading goes under it.
    ...(other.record.group === page.group ? {} : { group: other.record.group }),
  }));
}

/** Changes the pack itself: its name, whether it is in use, its place among the others. */
export function withPack(records: Records, pack: string, change: Partial<PackRecord>): Records {
  const name = recordName({ kind: "pack", pack });
  const own = records[name] as PackRecord | undefined;
  return own ? { ...records, [name]: { ...own, ...change } } : records;
}

/** How many rows high a page is. */
export function heightOf(records: Records, place: PagePlace): number {
  return rowsOf(placesOn(records, place));
}
