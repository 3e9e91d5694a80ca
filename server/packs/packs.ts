import type { Knex } from "knex";
import { isReadable, MONTH_IN_NAME, type Pack, type PackList, type Page, type PlacedPanel } from "#contract/pack.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { monthName } from "#core/calendar/month.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { FrameQuery } from "#core/frame/schema.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readPacks } from "./pack-rows.ts";

/** What stands for the month in packs' names. */
export function monthInNames({ coverage }: Structure): string {
  const month = lastClosedMonth(coverage);
  return month === undefined ? "" : monthName(month);
}

/** All packs with the names of their pages; `month` is the last closed one's name. */
export async function listPacks(knex: Knex, month: string): Promise<PackList> {
  return (await readPacks(knex)).map(({ pages, starts: _, ...pack }) => ({
    ...pack,
    name: packName(pack.written, month),
    pages: pages.map(({ key, name, group }) => ({ key, name, ...(group === undefined ? {} : { group }) })),
  }));
}

/** One pack. Throws "not-found". */
export async function readPack(knex: Knex, key: string, month = ""): Promise<Pack> {
  const [pack] = await readPacks(knex, key);
  if (!pack) throw new ProblemError("not-found", `There is no pack "${key}". Open the list of packs and choose one.`);
  return { ...pack, name: packName(pack.written, month) };
}

/** A pack's name with the month in its place. */
export function packName(name: string, month: string): string {
  const rolled = name.replaceAll(MONTH_IN_NAME, month).trim() || name;
  return rolled[0]!.toUpperCase() + rolled.slice(1);
}

/** Packs that were read in a state of the data: every change of a pack makes another. */
const packsInState = new WeakMap<Structure, Map<string, Promise<Pack>>>();

/** One pack as it is in a state of the data, read once. Throws "not-found". */
export function readPackOnce(knex: Knex, structure: Structure, key: string): Promise<Pack> {
  const known = getOrCreate(packsInState, structure, () => new Map<string, Promise<Pack>>());
  return getOrCreate(known, key, () => {
    const pack = readPack(knex, key);
    pack.catch(() => known.delete(key));
    return pack;
  });
}

/** The scope that a frame's page holds until another one is chosen; none where it is of no page. Throws "not-found". */
export async function readPageScope(
  knex: Knex,
  structure: Structure,
  { pack, page }: Pick<FrameQuery, "pack" | "page">,
): Promise<Scope> {
  if (pack === undefined || page === undefined) return {};
  return requirePage(await readPackOnce(knex, structure, pack), page).scope;
}

/** One panel with its page. Throws "not-found" naming what is missing, and says why where the panel cannot be read. */
export async function readPanel(
  knex: Knex,
  names: { pack: string; page: string; panel: string },
): Promise<{ page: Page; panel: PanelDefinition }> {
  const page = requirePage(await readPack(knex, names.pack), names.page);
  return { page, panel: requireReadable(page, names.panel) };
}

/** A panel of a page that can be shown. Throws "not-found", with why where its definition cannot be read. */
export function requireReadable(page: Page, key: string): PanelDefinition {
  const { definition } = requirePanel(page, key);
  if (isReadable(definition)) return definition;
  throw new ProblemError(
    "not-found",
    `The panel "${key}" of the page ${page.name} cannot be shown. ${definition.reason} Take it off the page, or restore it from its history.`,
  );
}

/** A page of a pack. Throws "not-found" with the pages there are. */
export function requirePage(pack: Pack, key: string): Page {
  const page = pack.pages.find((p) => p.key === key);
  if (page) return page;
  const pages = pack.pages.map((p) => p.key).join(", ");
  throw new ProblemError("not-found", `${pack.name} has no page "${key}". Its pages are ${pages}.`);
}

/** A panel of a page. Throws "not-found" with the panels there are. */
export function requirePanel(page: Page, key: string): PlacedPanel {
  const panel = page.panels.find((p) => p.key === key);
  if (panel) return panel;
  const panels = page.panels.map((p) => p.key).join(", ");
  throw new ProblemError(
    "not-found",
    `The page ${page.name} has no panel "${key}". Its panels are ${panels || "none"}.`,
  );
}
