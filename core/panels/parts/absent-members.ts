import { isPresent } from "../../figures/figure.ts";
import { valueStyle, writeWithUnit, type MoneyUnit } from "../../formats/number-words.ts";
import type { KpiRow } from "./schema.ts";

/** A member without a figure, with the reason, and with what it is compared with where that is there. */
export interface AbsentMember {
  readonly name: string;
  readonly reason: string;
}

/** Members that have no figure of what is shown: what is gone is told with what it had. */
export function absentMembers(
  all: readonly { readonly name: string; readonly row: KpiRow }[],
  money: MoneyUnit,
): AbsentMember[] {
  return all.flatMap(({ name, row: { actual, basis, basisName, kpi } }) => {
    if (isPresent(actual)) return [];
    // The name stands before the reason already.
    const why = actual.detail.startsWith(`${name} `) ? actual.detail.slice(name.length + 1) : actual.detail;
    if (!isPresent(basis) || basis.value === 0) return [{ name, reason: why }];
    const had = writeWithUnit(basis.value, valueStyle(kpi.unit, kpi.decimals, money));
    return [{ name, reason: `${why} ${basisName}: ${had}.` }];
  });
}
