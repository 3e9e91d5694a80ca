import { BALANCE_FUNCTIONS, days, YEAR_CLOCKS } from "./balances.ts";
import { abs, EXTREME_FUNCTIONS, ifAbsent, ifFunction } from "./choices.ts";
import { read } from "./coverage.ts";
import type { FormulaFunction, Parameter } from "./function.ts";
import { compoundGrowth, growth, movingAverage } from "./growth.ts";
import { MEMBER_FUNCTIONS, rank } from "./members.ts";
import { NUMBER_FUNCTIONS } from "./numbers.ts";
import { outlook } from "./outlook.ts";
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
    ...YEAR_CLOCKS,
    read,
    growth,
    compoundGrowth,
    movingAverage,
    runRate,
    outlook,
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
    ...NUMBER_FUNCTIONS,
  ].map((f) => [f.name, f]),
);

/** How a function is written: "growth(value, on: prior_period | prior_year)". */
export function usageOf({ name, parameters }: FormulaFunction): string {
  return `${name}(${parameters.map(parameterUsage).join(", ")})`;
}

function parameterUsage(parameter: Parameter): string {
  const { name, takes, isOption } = parameter;
  if (takes === "members") return 'route: "…"';
  const what = {
    value: name,
    values: "value, value",
    count: isOption ? "number" : name,
    number: isOption ? "number" : name,
    choice: takes === "choice" ? parameter.of.join(" | ") : "",
    dimension: isOption ? "dimension" : name,
    dimensions: name,
    "dimension-or-month": "dimension | month",
    level: isOption ? "level" : name,
    counted: '"passengers"',
  }[takes];
  return isOption ? `${name}: ${what}` : what;
}
