import { BALANCE_FUNCTIONS, days } from "./balances.ts";
import { abs, EXTREME_FUNCTIONS, ifAbsent, ifFunction } from "./choices.ts";
import type { FormulaFunction } from "./function.ts";
import { compoundGrowth, growth, movingAverage } from "./growth.ts";
import { MEMBER_FUNCTIONS, rank } from "./members.ts";
import { runRate } from "./run-rate.ts";
import { ignoring, only, share } from "./scopes.ts";
import { ago, SHIFT_FUNCTIONS } from "./shifts.ts";
import { cumulative, SPAN_FUNCTIONS, trailing } from "./spans.ts";

/** The functions of the formula language, in the order of the reference page. */
export const FUNCTIONS: ReadonlyMap<string, FormulaFunction> = new Map(
  [
    ...SPAN_FUNCTIONS,
    trailing,
    cumulative,
    ...SHIFT_FUNCTIONS,
    ago,
    growth,
    compoundGrowth,
    movingAverage,
    runRate,
    ...BALANCE_FUNCTIONS,
    days,
    only,
    ignoring,
    share,
    ...MEMBER_FUNCTIONS,
    rank,
    ifFunction,
    ifAbsent,
    abs,
    ...EXTREME_FUNCTIONS,
  ].map((f) => [f.name, f]),
);

/** How a function is written: "growth(value, on: prior_period | prior_year)". */
export function usageOf({ name, parameters }: FormulaFunction): string {
  const written = parameters.map((p) => {
    if (p.takes === "members") return 'route: "…"';
    const what = p.takes === "choice" ? p.of.join(" | ") : p.takes === "values" ? "value, value" : p.name;
    return p.isOption ? `${p.name}: ${p.takes === "choice" ? what : p.takes === "count" ? "number" : p.takes}` : what;
  });
  return `${name}(${written.join(", ")})`;
}
