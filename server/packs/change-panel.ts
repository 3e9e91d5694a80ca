import type { Knex } from "knex";
import { packSchema, type PackDefinition, type PanelDefinition } from "#contract/pack.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { readPanel } from "./packs.ts";

/** Arranges a panel anew. What it names must be there; the panel's key and kind stay. Returns its pack. */
export async function changePanel(
  trx: Knex.Transaction,
  structure: Structure,
  place: { pack: string; page: string; panel: string },
  next: PanelDefinition,
): Promise<PackDefinition> {
  const { panel } = await readPanel(trx, place);
  if (next.key !== panel.key || next.kind !== panel.kind)
    throw new ProblemError("invalid-change", "A panel's key and kind stay as they are.");
  const kpis = next.kind === "scorecard" ? next.groups.flatMap((g) => g.kpis) : [next.kpi];
  const unknown = kpis.find((key) => !structure.kpis.has(key) && !structure.kpiProblems.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-kpi",
      `There is no KPI "${unknown}". Choose one of the library, or define it first.`,
    );
  if (
    next.kind === "scorecard" &&
    next.expandBy !== undefined &&
    !structure.dimensions.some((d) => d.key === next.expandBy)
  )
    throw new ProblemError("unknown-scope", `There is no dimension "${next.expandBy}" to open rows by.`);
  const row: { definition: unknown } | undefined = await trx("pack")
    .where({ key: place.pack })
    .forUpdate()
    .first("definition");
  const pack = packSchema.parse(row!.definition);
  const changed: PackDefinition = {
    ...pack,
    pages: pack.pages.map((page) =>
      page.key === place.page ? { ...page, panels: page.panels.map((p) => (p.key === place.panel ? next : p)) } : page,
    ),
  };
  await trx("pack")
    .where({ key: place.pack })
    .update({ definition: JSON.stringify(changed) });
  return changed;
}
