import type { Knex } from "knex";
import {
  dimensionOf,
  kpisOf,
  packSchema,
  type PackDefinition,
  type PageDefinition,
  type PanelDefinition,
} from "#contract/pack.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { requirePage, requirePanel } from "./packs.ts";

interface PagePlace {
  readonly pack: string;
  readonly page: string;
}

/** A page holds at most this many panels. */
const MOST_PANELS = 20;

/** Arranges a panel anew. What it names must be there; the panel's key and kind stay. Returns its pack. */
export function changePanel(
  trx: Knex.Transaction,
  structure: Structure,
  place: PagePlace & { panel: string },
  next: PanelDefinition,
): Promise<PackDefinition> {
  return changePage(trx, place, (page) => {
    const panel = requirePanel(page, place.panel);
    if (next.key !== panel.key || next.kind !== panel.kind)
      throw new ProblemError("invalid-change", "A panel's key and kind stay as they are.");
    requireNamed(structure, next);
    return { ...page, panels: page.panels.map((p) => (p.key === place.panel ? next : p)) };
  });
}

/** Adds a panel at the end of a page, under a key that is not in use there. Returns its pack. */
export function addPanel(
  trx: Knex.Transaction,
  structure: Structure,
  place: PagePlace,
  panel: PanelDefinition,
): Promise<PackDefinition> {
  return changePage(trx, place, (page) => {
    if (page.panels.some((p) => p.key === panel.key))
      throw new ProblemError("invalid-change", `The page ${page.name} has a panel "${panel.key}" already.`);
    if (page.panels.length >= MOST_PANELS)
      throw new ProblemError("invalid-change", `A page holds at most ${MOST_PANELS} panels. Take one off first.`);
    requireNamed(structure, panel);
    return { ...page, panels: [...page.panels, panel] };
  });
}

/** Takes a panel off its page. Returns its pack. */
export function removePanel(trx: Knex.Transaction, place: PagePlace & { panel: string }): Promise<PackDefinition> {
  return changePage(trx, place, (page) => {
    requirePanel(page, place.panel);
    return { ...page, panels: page.panels.filter((p) => p.key !== place.panel) };
  });
}

function requireNamed(structure: Structure, panel: PanelDefinition): void {
  const unknown = kpisOf(panel).find((key) => !structure.kpis.has(key) && !structure.kpiProblems.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-kpi",
      `There is no KPI "${unknown}". Choose one of the library, or define it first.`,
    );
  const named = dimensionOf(panel);
  const dimension = structure.dimensions.find((d) => d.key === named);
  if (named !== undefined && !dimension)
    throw new ProblemError("unknown-scope", `There is no dimension "${named}" to open or repeat by.`);
  const level = panel.kind === "tiles" ? (panel.repeatBy?.level ?? null) : null;
  if (dimension && level !== null && !dimension.levels.includes(level))
    throw new ProblemError(
      "unknown-scope",
      `${dimension.name} has no level "${level}". Its levels are ${dimension.levels.join(", ")}.`,
    );
}

async function changePage(
  trx: Knex.Transaction,
  place: PagePlace,
  change: (page: PageDefinition) => PageDefinition,
): Promise<PackDefinition> {
  const row = await trx("pack")
    .where({ key: place.pack })
    .forUpdate()
    .first<{ definition: unknown } | undefined>("definition");
  if (!row) throw new ProblemError("not-found", `There is no pack "${place.pack}".`);
  const pack = packSchema.parse(row.definition);
  const changed = change(requirePage(pack, place.page));
  const next: PackDefinition = { ...pack, pages: pack.pages.map((page) => (page.key === place.page ? changed : page)) };
  await trx("pack")
    .where({ key: place.pack })
    .update({ definition: JSON.stringify(next) });
  return next;
}
