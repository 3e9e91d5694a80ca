import { isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { deltaStyle, writePercent, writeWithUnit } from "../../formats/number-words.ts";
import type { GrowthOn, GrowthPoint } from "./schema.ts";

/** How the last period grew, or which member grew most, and how many of all did. */
export function growthHeadline(
  { definition: { name, unit, decimals } }: CompiledKpi,
  points: readonly Omit<GrowthPoint, "range">[],
  { noun, on, isOverTime }: { noun: string; on: GrowthOn; isOverTime: boolean },
): string {
  const told = points.filter(({ growth }) => isPresent(growth));
  const value = ({ growth }: Pick<GrowthPoint, "growth">) => (isPresent(growth) ? growth.value : 0);
  const lead = isOverTime ? told.at(-1) : told[0];
  if (!lead) return `${name} has no earlier figure to grow from.`;
  const style = deltaStyle(unit, decimals, "units");
  const amount = (of: number) =>
    unit.kind === "percent" ? writeWithUnit(Math.abs(of), style) : writePercent(Math.abs(of));
  const size = value(lead);
  const way = size > 0 ? "grew" : size < 0 ? "fell" : "was unchanged";
  const grew = told.filter((point) => value(point) > 0).length;
  const plural = `${noun}${told.length === 1 ? "" : "s"}`;
  const than = on === "prior-year" ? "the prior year" : isOverTime ? `the ${noun} before` : "the prior period";
  const by = size === 0 ? "" : ` ${amount(size)}`;
  return isOverTime
    ? `${name} ${way}${by} in ${lead.name} on ${than}; it grew in ${grew} of ${told.length} ${plural}.`
    : `${name} ${way} most for ${lead.name},${by} on ${than}; ${grew} of ${told.length} ${plural} grew.`;
}
