import type { Span } from "../../calendar/span.ts";
import { inTime } from "../place.ts";
import type { Typed } from "../typed.ts";
import { COVERAGE, placeOf } from "./coverage.ts";
import type { FormulaFunction } from "./function.ts";

type PlainSpan = Exclude<Span["kind"], "trailing" | "window">;

const VALUE = { name: "value", takes: "value", about: "what is gathered over the span" } as const;

/** What is read over a span of its own no longer adds up over the page's. */
export function asMoving(value: Typed): Typed {
  return value.behaviour === "constant" ? value : { ...value, behaviour: "moving" };
}

/** A function that reads its value over a fixed span around the as-of month. */
function spanFunction(kind: PlainSpan, gives: string, example: string): FormulaFunction {
  return {
    name: kind.replaceAll("-", "_"),
    group: "Time",
    parameters: [VALUE, COVERAGE],
    gives,
    absence:
      "Absent where no month of the span has figures; otherwise the months that have are gathered, and a note says which.",
    example,
    compile: (call, place, compiling) =>
      asMoving(
        compiling.part(
          call.values[0]!,
          inTime(placeOf(call, place, compiling), { do: "span", span: { kind }, whole: false }),
        ),
      ),
  };
}

/** The value over a span of its own, whatever span the page looks at. */
export const SPAN_FUNCTIONS: readonly FormulaFunction[] = [
  spanFunction("month", "The value in the as-of month alone.", "month(total_revenue)"),
  spanFunction(
    "quarter",
    "The value over the fiscal quarter of the as-of month, as far as that month; of a plan that is named, such as @budget, over the whole quarter.",
    "quarter(total_revenue)",
  ),
  spanFunction(
    "quarter-to-date",
    "The value from the start of the fiscal quarter to the as-of month.",
    "quarter_to_date(total_revenue)",
  ),
  spanFunction(
    "year-to-date",
    "The value from the start of the fiscal year to the as-of month.",
    "year_to_date(total_revenue)",
  ),
  spanFunction(
    "full-year",
    "The value over the fiscal year, as far as the as-of month; of a plan that is named, such as @budget, over the whole year.",
    "full_year(total_revenue@budget)",
  ),
  spanFunction(
    "month-to-date",
    "The value from day 1 of the as-of month to the last day that has figures, that day included. Only daily data can tell.",
    "month_to_date(passengers_carried)",
  ),
];

/** The value over the last N months. */
export const trailing: FormulaFunction = {
  name: "trailing",
  group: "Time",
  parameters: [
    VALUE,
    { name: "months", takes: "count", from: 1, to: 120, otherwise: 12, about: "how many months" },
    COVERAGE,
  ],
  gives: "The value over the last months that end in the as-of month: twelve, or as many as are said.",
  absence: "Absent until all of them have figures.",
  example: "trailing(operating_margin, 12)",
  compile: (call, place, compiling) =>
    asMoving(
      compiling.part(
        call.values[0]!,
        inTime(placeOf(call, place, compiling), {
          do: "span",
          span: { kind: "trailing", periods: call.counts.get("months")! },
          whole: true,
        }),
      ),
    ),
};

/** The same from the start of the year or quarter, for charts that climb. */
export const cumulative: FormulaFunction = {
  name: "cumulative",
  group: "Time",
  parameters: [
    VALUE,
    {
      name: "since",
      isOption: true,
      takes: "choice",
      of: ["year", "quarter"],
      otherwise: "year",
      about: "where it starts again",
    },
    COVERAGE,
  ],
  gives:
    "The value gathered from the start of the fiscal year (or quarter) up to each month: on a chart, a line that climbs.",
  absence: "Absent where no month since the start has figures.",
  example: "cumulative(total_revenue, since: quarter)",
  compile: (call, place, compiling) => {
    const kind = call.choices.get("since") === "quarter" ? "quarter-to-date" : "year-to-date";
    const at = inTime(placeOf(call, place, compiling), { do: "span", span: { kind }, whole: false });
    return asMoving(compiling.part(call.values[0]!, at));
  },
};
