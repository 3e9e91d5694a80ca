import { isPresent } from "../../figures/figure.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { deltaStyle, valueStyle, writePercent, writeWithUnit, type MoneyUnit } from "../../formats/number-words.ts";
import type { HeatShade, HeatAnswer } from "./schema.ts";

/** Which cell a heat grid shows most strongly: the largest value, or the one furthest the wrong way. */
export function heatHeadline(
  { definition: { name, unit, decimals, direction } }: CompiledKpi,
  { rows, columns, cells }: Pick<HeatAnswer, "rows" | "columns" | "cells">,
  shade: HeatShade,
  basisName: string,
  money: MoneyUnit,
): string {
  const all = cells.flatMap((line, r) =>
    line.flatMap((cell, c) => {
      const figure = shade === "value" ? cell.actual : cell.variance.delta;
      return isPresent(figure) ? [{ cell, value: figure.value, r, c }] : [];
    }),
  );
  if (all.length === 0) return `${name} has no figure by ${rows.noun} and ${columns.noun}.`;
  const place = ({ r, c }: { r: number; c: number }) => `${rows.entries[r]!.name} in ${columns.entries[c]!.name}`;
  if (shade === "value") {
    const most = all.reduce((a, b) => (b.value > a.value ? b : a));
    return `${name} is highest for ${place(most)}: ${writeWithUnit(most.value, valueStyle(unit, decimals, money))}.`;
  }
  const against = direction === "lower" ? 1 : -1;
  const worst = all.reduce((a, b) => (against * b.value > against * a.value ? b : a));
  if (against * worst.value <= 0) return `Nowhere is ${name} unfavourable against ${basisName}.`;
  const { deltaPercent } = worst.cell.variance;
  const share =
    unit.kind !== "percent" && isPresent(deltaPercent) ? ` (${writePercent(Math.abs(deltaPercent.value))})` : "";
  const amount = writeWithUnit(Math.abs(worst.value), deltaStyle(unit, decimals, money));
  return `${name} is furthest off for ${place(worst)}: ${amount}${share} ${worst.value > 0 ? "above" : "below"} ${basisName}.`;
}
