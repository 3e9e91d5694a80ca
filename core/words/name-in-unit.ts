import { valueStyle, type MoneyUnit } from "../formats/number-words.ts";
import type { KpiDefinition } from "../kpis/schema.ts";

/** A KPI with its unit, unless its name says it already: "Revenue in € thousand", "Passengers". */
export function nameInUnit(
  { name, unit, decimals }: Pick<KpiDefinition, "name" | "unit" | "decimals">,
  money: MoneyUnit,
): string {
  const { unitName } = valueStyle(unit, decimals, money);
  if (name.toLowerCase().includes(unitName.toLowerCase())) return name;
  return unitName.startsWith("per ") ? `${name} ${unitName}` : `${name} in ${unitName}`;
}
