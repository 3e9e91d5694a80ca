import { inTime } from "../place.ts";
import type { TimeStep } from "../view.ts";
import { COVERAGE, placeOf } from "./coverage.ts";
import type { FormulaFunction } from "./function.ts";
import { asMoving } from "./spans.ts";

function shiftFunction(name: string, step: TimeStep, gives: string, absence: string, example: string): FormulaFunction {
  const isMonth = step.do === "first" || step.do === "last";
  return {
    name,
    group: "Time",
    parameters: [{ name: "value", takes: "value", about: "what is read at that time" }, COVERAGE],
    gives,
    absence,
    example,
    compile: (call, place, compiling) => {
      const value = compiling.part(call.values[0]!, inTime(placeOf(call, place, compiling), step));
      return isMonth ? asMoving(value) : value;
    },
  };
}

const NOT_THERE =
  "Absent where that time has no figures. The page's first month does not cut it off: it is read from before.";

/** The value at another time that depends on the page's span. */
export const SHIFT_FUNCTIONS: readonly FormulaFunction[] = [
  shiftFunction(
    "prior_year",
    { do: "back", months: 12 },
    "The value over the same fiscal months one year earlier.",
    NOT_THERE,
    "total_revenue - prior_year(total_revenue)",
  ),
  shiftFunction(
    "prior_period",
    { do: "prior-period" },
    "The value over the span of the same kind just before: last month, last quarter, the same number of months of it, or the prior year to date.",
    NOT_THERE,
    "prior_period(total_revenue)",
  ),
  shiftFunction(
    "first",
    { do: "first" },
    "The value in the first month of the span.",
    "Absent where that month has no figures.",
    "first(operating_margin)",
  ),
  shiftFunction(
    "last",
    { do: "last" },
    "The value in the last month of the span.",
    "Absent where that month has no figures.",
    "last(operating_margin)",
  ),
];

/** The value a number of months earlier. */
export const ago: FormulaFunction = {
  name: "ago",
  group: "Time",
  parameters: [
    { name: "value", takes: "value", about: "what is read at that time" },
    { name: "months", takes: "count", from: 1, to: 120, otherwise: null, about: "how many months earlier" },
    COVERAGE,
  ],
  gives:
    "The value over the same months, each a number of months earlier: April to October, one month ago, is March to September.",
  absence: NOT_THERE,
  example: "ago(passenger_count, 1)",
  compile: (call, place, compiling) =>
    compiling.part(
      call.values[0]!,
      inTime(placeOf(call, place, compiling), { do: "back", months: call.counts.get("months")! }),
    ),
};
