import type { Knex } from "knex";
import {
  MONTH_IN_NAME,
  packSchema,
  type PackDefinition,
  type PackList,
  type PageDefinition,
  type PanelDefinition,
} from "#contract/pack.ts";
import { ProblemError } from "#server/http/problem-error.ts";

/** All packs with the names of their pages; `month` is the last closed one's name. */
export async function listPacks(knex: Knex, month: string): Promise<PackList> {
  const rows: { definition: unknown }[] = await knex("pack").orderBy("position").select("definition");
  return rows
    .map((row) => packSchema.parse(row.definition))
    .map(({ key, name, pages }) => ({
      key,
      name: named(name, month),
      pages: pages.map((page) => ({ key: page.key, name: page.name })),
    }));
}

/** One pack. Throws "not-found". */
export async function readPack(knex: Knex, key: string, month = ""): Promise<PackDefinition> {
  const row: { definition: unknown } | undefined = await knex("pack").where({ key }).first("definition");
  if (!row) throw new ProblemError("not-found", `There is no pack "${key}". Open the list of packs and choose one.`);
  const pack = packSchema.parse(row.definition);
  return { ...pack, name: named(pack.name, month) };
}

function named(name: string, month: string): string {
  const rolled = name.replaceAll(MONTH_IN_NAME, month).trim();
  return rolled[0]!.toUpperCase() + rolled.slice(1);
}

/** One panel with its page. Throws "not-found" naming what is missing. */
export async function readPanel(
  knex: Knex,
  names: { pack: string; page: string; panel: string },
): Promise<{ page: PageDefinition; panel: PanelDefinition }> {
  const page = requirePage(await readPack(knex, names.pack), names.page);
  return { page, panel: requirePanel(page, names.panel) };
}

/** A page of a pack. Throws "not-found" with the pages there are. */
export function requirePage(pack: PackDefinition, key: string): PageDefinition {
  const page = pack.pages.find((p) => p.key === key);
  if (page) return page;
  const pages = pack.pages.map((p) => p.key).join(", ");
  throw new ProblemError("not-found", `${pack.name} has no page "${key}". Its pages are ${pages}.`);
}

/** A panel of a page. Throws "not-found" with the panels there are. */
export function requirePanel(page: PageDefinition, key: string): PanelDefinition {
  const panel = page.panels.find((p) => p.key === key);
  if (panel) return panel;
  const panels = page.panels.map((p) => p.key).join(", ");
  throw new ProblemError("not-found", `The page ${page.name} has no panel "${key}". Its panels are ${panels}.`);
}
