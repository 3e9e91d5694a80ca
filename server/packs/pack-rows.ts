import type { Knex } from "knex";
import { packStartSchema } from "#contract/pack.ts";
import type { Pack, Page } from "#contract/pack.ts";
import { readStoredPanel } from "#contract/stored-panel.ts";
import { scopeSchema } from "#contract/frame.ts";

interface PackRow {
  key: string;
  definition: unknown;
  version: number;
}
export interface PageRow {
  pack: string;
  key: string;
  name: string;
  scope: unknown;
  position: number;
  version: number;
}
export interface PanelRow {
  pack: string;
  page: string;
  key: string;
  definition: Record<string, unknown>;
  position: number;
  version: number;
}

/** Reads packs as they are stored, in their order: all, or the one of a key. What cannot be read says so in its place. */
export async function readPacks(knex: Knex, key?: string): Promise<Pack[]> {
  const packs = await knex("pack")
    .modify((query) => (key === undefined ? undefined : void query.where({ key })))
    .orderBy("position")
    .select<PackRow[]>("key", "definition", "version");
  if (packs.length === 0) return [];
  const within = (query: Knex.QueryBuilder) => (key === undefined ? undefined : void query.where({ pack: key }));
  const pages = await knex("page").modify(within).orderBy("position").select<PageRow[]>("*");
  const panels = await knex("panel").modify(within).orderBy("position").select<PanelRow[]>("*");
  return packs.map((pack) => toPack(pack, pages, panels));
}

function toPack({ key, definition, version }: PackRow, pages: readonly PageRow[], panels: readonly PanelRow[]): Pack {
  const { name, starts } = (definition ?? {}) as { name?: unknown; starts?: unknown };
  const start = starts === undefined ? undefined : packStartSchema.safeParse(starts);
  const problem =
    start && !start.success ? "What its frame starts from cannot be read; it starts from the company's books." : null;
  return {
    key,
    name: typeof name === "string" && name.trim() !== "" ? name : key,
    ...(start?.success ? { starts: start.data } : {}),
    version,
    pages: pages.filter((page) => page.pack === key).map((page) => toPage(page, panels)),
    problem,
  };
}

function toPage({ pack, key, name, scope, version }: PageRow, panels: readonly PanelRow[]): Page {
  const read = scopeSchema.safeParse(scope);
  return {
    key,
    name,
    version,
    scope: read.success ? read.data : {},
    panels: panels
      .filter((panel) => panel.pack === pack && panel.page === key)
      .map((panel) => ({ ...readStoredPanel(panel.definition, panel.key), version: panel.version })),
    problem: read.success
      ? null
      : "What it is narrowed to cannot be read: it shows everything. Choose its scope again.",
  };
}
