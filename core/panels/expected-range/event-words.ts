import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Period } from "../../series/periods.ts";
import { listed } from "../../formats/listed.ts";
import { valueStyle, writeWithUnit, type MoneyUnit } from "../../formats/number-words.ts";
import { writeScore } from "../../formats/write-score.ts";
import { isAdditive } from "../parts/part-of.ts";
import type { JoinedEvent } from "./events.ts";

const FARTHEST = 10;

/** "9 to 20 September FY27 below the range, lowest −4.1 σ, on …; 15,300 passengers fewer than expected" */
export function eventWords(
  {
    from,
    to,
    side,
    kind,
    worst,
    deviation,
  }: Pick<JoinedEvent, "from" | "to" | "side" | "kind" | "worst" | "deviation">,
  periods: readonly Period[],
  members: readonly string[],
  { definition: { unit, decimals } }: CompiledKpi,
  money: MoneyUnit,
): string {
  const when = datesOf(periods[from]!, periods[to]!);
  const on = members.length === 0 ? "" : `, on ${listed(members)}`;
  // Beyond some distance a figure says no more than that it is far.
  const score = Math.abs(worst) > FARTHEST ? `beyond ${worst < 0 ? "−" : "+"}${FARTHEST} σ` : writeScore(worst);
  const far = `${side === "below" ? "lowest" : "highest"} ${score}`;
  const size = writeWithUnit(Math.abs(deviation), valueStyle(unit, decimals, money));
  const amount = isAdditive(unit)
    ? `; ${size}${unit.kind === "count" ? ` ${unit.of}` : ""} ${deviation > 0 ? "more" : unit.kind === "count" ? "fewer" : "less"} than expected`
    : "";
  const stays = kind === "shift" ? ", and it stayed so: another level" : "";
  return `${when} ${side} the range, ${far}${on}${amount}${stays}`;
}

function datesOf(from: Period, to: Period): string {
  if (from.key === to.key) return from.name;
  const [day, ...rest] = from.name.split(" ");
  // "9 to 20 September FY27" where both lie in one month.
  return from.window.days && to.window.days && to.name.endsWith(rest.join(" ")) && /^\d+$/.test(day!)
    ? `${day} to ${to.name}`
    : `${from.name} to ${to.name}`;
}
