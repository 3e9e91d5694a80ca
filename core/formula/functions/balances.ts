import { gathering } from "../place.ts";
import { refuse } from "../expression.ts";
import type { Gathering } from "../node.ts";
import type { FormulaFunction } from "./function.ts";

function balanceFunction(how: Gathering, gives: string, example: string): FormulaFunction {
  return {
    name: how,
    group: "Balances",
    parameters: [{ name: "balance", takes: "value", about: "a balance, such as cash or headcount" }],
    gives,
    absence: "Absent where a month it needs has no figures.",
    example,
    compile: ({ at, values }, place, { part }) => {
      const value = part(values[0]!, gathering(place, how));
      if (value.nature !== "balance")
        refuse(
          values[0] ?? at,
          `${how}(…) gathers a balance; "${value.label}" is ${value.nature === "flow" ? "a flow and is summed over the span" : "none"}.`,
        );
      return { ...value, said: true };
    },
  };
}

/** How a balance is gathered over a span, said in words. */
export const BALANCE_FUNCTIONS: readonly FormulaFunction[] = [
  balanceFunction(
    "closing",
    "The balance at the end of the span. So is a balance read when nothing is said.",
    "closing(cash)",
  ),
  balanceFunction(
    "opening",
    "The balance at the start of the span: the closing one of the month before it.",
    "closing(cash) - opening(cash)",
  ),
  balanceFunction("average", "The mean of the closing balances of the span's months.", "average(headcount)"),
];

/** The days of what is looked at. */
export const days: FormulaFunction = {
  name: "days",
  group: "Balances",
  parameters: [],
  gives: "The days of the months that have figures in the span, for turnover in days.",
  absence: "Never absent where the formula has a figure.",
  example: "closing(receivables) / revenue * days()",
  compile: (_call, place, { clock }) => clock(place, "elapsed", "day"),
};

function yearClock(name: "months_elapsed" | "months_left", gives: string, example: string): FormulaFunction {
  return {
    name,
    group: "Time",
    parameters: [],
    gives,
    absence: "Never absent.",
    example,
    compile: (_call, place, { clock }) => ({
      ...clock(place, name === "months_elapsed" ? "year-elapsed" : "year-left", "month"),
      behaviour: "moving",
    }),
  };
}

/** How far the fiscal year has come. */
export const YEAR_CLOCKS: readonly FormulaFunction[] = [
  yearClock(
    "months_elapsed",
    "The months of the fiscal year up to the as-of month, that month included.",
    "year_to_date(total_revenue) / months_elapsed()",
  ),
  yearClock(
    "months_left",
    "The months of the fiscal year after the as-of month.",
    "(full_year(total_revenue@budget) - year_to_date(total_revenue)) / months_left()",
  ),
];
