import { isPresent } from "../../figures/figure.ts";
import { isOrAre } from "../../formats/verb.ts";
import { deltaStyle, writePercent, writeWithUnit, type MoneyUnit } from "../../formats/number-words.ts";
import type { ShareOf, SharePart } from "./schema.ts";
import type { KpiRow } from "../parts/schema.ts";

/** What is left to the basis, or by how much it is passed: "€ 120k left to Budget". */
export function leftWords({ kpi, variance, basisName }: KpiRow, money: MoneyUnit): string {
  const { delta } = variance;
  if (!isPresent(delta)) return delta.detail;
  const amount = writeWithUnit(Math.abs(delta.value), deltaStyle(kpi.unit, kpi.decimals, money));
  if (delta.value === 0) return `exactly ${basisName}`;
  if (kpi.direction === "lower") return delta.value > 0 ? `${amount} over ${basisName}` : `${amount} to spare`;
  return delta.value < 0 ? `${amount} left to ${basisName}` : `${amount} above ${basisName}`;
}

/** Who makes most of it, or how many reach what they are to reach. */
export function shareHeadline(
  name: string,
  noun: string,
  of: ShareOf,
  parts: readonly SharePart[],
  basisName: string,
): string {
  if (of === "whole") {
    const [first] = parts;
    if (!first || !isPresent(first.share)) return `${name} by ${noun}: no shares to show.`;
    const three = parts.slice(0, 3).reduce((sum, { share }) => sum + (isPresent(share) ? share.value : 0), 0);
    const more = parts.length > 3 ? `; the first three make ${writePercent(three)}` : "";
    return `${first.name} ${isOrAre(first.name) === "is" ? "makes" : "make"} ${writePercent(first.share.value)} of ${name.charAt(0).toLowerCase()}${name.slice(1)}${more}.`;
  }
  const judged = parts.filter(({ row }) => isPresent(row.attainment) && row.variance.judgement !== null);
  if (judged.length === 0) return `${name} by ${noun} cannot be compared with ${basisName}.`;
  const reached = judged.filter(({ row }) => isReached(row)).length;
  const near = judged.filter(({ row }) => !isReached(row) && row.variance.judgement !== "unfavourable").length;
  const last = judged.at(-1)!;
  const within = near === 0 ? "" : `, ${near} more within tolerance`;
  const behind = reached + near === judged.length ? "" : `; ${last.name} is last: ${last.left}`;
  const what = `${name.charAt(0).toLowerCase()}${name.slice(1)}`;
  const verb =
    last.row.kpi.direction === "lower"
      ? `${reached === 1 ? "stays" : "stay"} within`
      : reached === 1
        ? "reaches"
        : "reach";
  return `${reached} of ${judged.length} ${noun}${judged.length === 1 ? "" : "s"} ${verb} ${basisName} in ${what}${within}${behind}.`;
}

/** Whether a member is where its basis is to bring it, to the last digit: being near it is said apart. */
function isReached({ variance: { delta, judgement }, kpi: { direction } }: KpiRow): boolean {
  if (direction === "closest") return judgement === "on plan";
  return isPresent(delta) && (direction === "lower" ? delta.value <= 0 : delta.value >= 0);
}
