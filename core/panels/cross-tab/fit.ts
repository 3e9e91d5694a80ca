import { listed } from "../../formats/listed.ts";
import { isAdditive } from "../parts/part-of.ts";
import type { CrossAxisEntries } from "./axis.ts";
import { CROSS_MEASURES, type CrossMeasure, type CrossTabDefinition } from "./schema.ts";
import type { KpiHead } from "../parts/schema.ts";

/** Why a definition makes no table. */
export function refusalOf({ rows, columns }: CrossTabDefinition): string | null {
  if (rows.length === 0) return "There are no rows: choose what to show down the side.";
  const all = [...rows, ...columns];
  for (const kind of ["period", "scenario", "kpi"] as const)
    if (all.filter((axis) => axis.kind === kind).length > 1)
      return `More than one depth is by ${kind === "kpi" ? "KPI" : kind}: change one of them.`;
  const [down, along] = [rows, columns].map(
    (side) => new Set(side.flatMap((axis) => (axis.kind === "member" ? [axis.dimension] : []))),
  );
  if ([...down!].some((dimension) => along!.has(dimension)))
    return "Rows and columns use the same dimension: put its levels on one side.";
  return null;
}

/** The measures that say something here, in their order, and why not the others. */
export function fittingMeasures(
  { measures, rows, columns }: CrossTabDefinition,
  axes: { readonly rows: readonly CrossAxisEntries[]; readonly columns: readonly CrossAxisEntries[] },
  kpis: readonly { readonly definition: KpiHead }[],
): { measures: readonly CrossMeasure[]; notes: readonly string[] } {
  const notes: string[] = [];
  const wanted = CROSS_MEASURES.filter((measure) =>
    measures.length === 0 ? measure === "value" : measures.includes(measure),
  );
  const isByScenario = [...rows, ...columns].some(({ kind }) => kind === "scenario");
  const fits = wanted.filter((measure) => {
    // A scenario of its own is the basis.
    if (measure === "basis") return !isByScenario;
    if (measure === "share-of-row") return axes.columns.some(({ totalName }) => totalName !== null);
    if (measure === "share-of-column") return axes.rows.some(({ totalName }) => totalName !== null);
    return true;
  });
  const rates = kpis.filter(({ definition }) => !isAdditive(definition.unit)).map(({ definition }) => definition.name);
  if (rates.length > 0 && fits.some((measure) => measure.startsWith("share")))
    notes.push(
      `${listed(rates)} ${rates.length === 1 ? "does" : "do"} not add up: no shares of ${rates.length === 1 ? "it" : "them"}.`,
    );
  return { measures: fits.length === 0 ? ["value"] : fits, notes };
}
