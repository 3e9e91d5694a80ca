import type { Knex } from "knex";
import { packStartSchema, type Pack, type Page } from "#contract/pack.ts";
import { inReadingOrder, panelOf } from "#contract/pack-records.ts";
import { pageLookSchema } from "#contract/page-look.ts";
import { scopeSchema } from "#core/frame/schema.ts";
import type { Place } from "#core/layout/place.ts";

export interface PackRow {
  key: string;
  definition: unknown;
  position: number;
}
export interface PageRow {
  pack: string;
  key: string;
  name: string;
  section: string | null;
  scope: unknown;
  look: unknown;
  position: number;
}
export interface PanelRow {
  pack: string;
  page: string;
  key: string;
  definition: Record<string, unknown>;
  place: Place;
}

/** Reads packs as they are stored, in their order: all, or the one of a key. What cannot be read says so in its place. */
export async function readPacks(knex: Knex, key?: string): Promise<Pack[]> {
  const packs = await knex("pack")
    .modify((query) => (key === undefined ? undefined : void query.where({ key })))
    .orderBy(["position", "key"])
    .select<PackRow[]>("key", "definition", "position");
  if (packs.length === 0) return [];
  const within = (query: Knex.QueryBuilder) => (key === undefined ? undefined : void query.where({ pack: key }));
  const pages = await knex("page").modify(within).orderBy(["position", "key"]).select<PageRow[]>("*");
  const panels = await knex("panel").modify(within).select<PanelRow[]>("*");
  return packs.map((pack) => toPack(pack, pages, panels));
}

function toPack({ key, definition, position }: PackRow, pages: readonly PageRow[], panels: readonly PanelRow[]): Pack {
  const { name, starts, isRetired } = (definition ?? {}) as Record<string, unknown>;
  const start = starts === undefined ? undefined : packStartSchema.safeParse(starts);
  const problem =
    start && !start.success ? "Its default frame cannot be read; it starts from the last closed month." : null;
  const written = typeof name === "string" && name.trim() !== "" ? name : key;
  return {
    key,
    name: written,
    written,
    ...(start?.success ? { starts: start.data } : {}),
    isRetired: isRetired === true,
    position,
    pages: pages.filter((page) => page.pack === key).map((page) => toPage(page, panels)),
    problem,
  };
}

/** A page's row as its readers know it. */
function toPage(row: PageRow, panels: readonly PanelRow[]): Page {
  const { pack, key, name, section, position } = row;
  const scope = scopeSchema.safeParse(row.scope);
  const look = pageLookSchema.safeParse(row.look);
  return {
    key,
    name,
    ...(section === null ? {} : { group: section }),
    scope: scope.success ? scope.data : {},
    look: look.success ? look.data : {},
    position,
    panels: inReadingOrder(
      panels.filter((panel) => panel.pack === pack && panel.page === key).map((panel) => panelOf(panel.key, panel)),
    ),
    problem: scope.success
      ? null
      : "What it is narrowed to cannot be read: it shows everything. Choose its scope again.",
  };
}
