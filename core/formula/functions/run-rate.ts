import type { Span } from "../../calendar/span.ts";
import { refuse } from "../expression.ts";
import { inTime, onOwnMonths, type Place } from "../place.ts";
import { addition, multiplication, type Typed } from "../typed.ts";
import type { Compiling, FormulaFunction } from "./function.ts";

const TO_DATE: Readonly<Record<string, { toDate: Span; whole: Span }>> = {
  month: { toDate: { kind: "month-to-date" }, whole: { kind: "month" } },
  quarter: { toDate: { kind: "quarter-to-date" }, whole: { kind: "quarter" } },
  year: { toDate: { kind: "year-to-date" }, whole: { kind: "full-year" } },
};

/** The pace so far, carried on to the end. */
export const runRate: FormulaFunction = {
  name: "run_rate",
  group: "Growth and pace",
  parameters: [
    { name: "value", takes: "value", about: "a flow: what adds up over time" },
    {
      name: "to",
      isOption: true,
      takes: "choice",
      of: ["year", "quarter", "month"],
      otherwise: "year",
      about: "to the end of what",
    },
    {
      name: "by",
      isOption: true,
      takes: "choice",
      of: ["days", "months"],
      otherwise: "days",
      about: "whether days or months are counted",
    },
    {
      name: "season",
      isOption: true,
      takes: "count",
      from: 0,
      to: 5,
      otherwise: 0,
      about: "of how many prior years the season is taken; 0: an even pace",
    },
  ],
  gives:
    "What the period ends with at the pace so far: to date ÷ days elapsed × days in it, the as-of day counted as elapsed. With a season: to date ÷ the share that prior years had by then.",
  absence: "Absent where nothing is there to date; with a season, where a prior year is not whole.",
  example: "run_rate(total_revenue, to: year, season: 2)",
  compile: ({ at, values, counts, choices }, place, compiling) => {
    const { toDate, whole } = TO_DATE[choices.get("to")!]!;
    // What prior years had by then is counted over the months that this year has; whole years are compared with nothing else.
    const own = onOwnMonths(place, compiling.newPartApart());
    const soFar = inTime(own, { do: "span", span: toDate, whole: false });
    const all = inTime(own, { do: "span", span: whole, whole: false });
    const value = compiling.part(values[0]!, soFar);
    if (value.behaviour !== "flow")
      refuse(at, "run_rate(…) extrapolates what adds up over time; its argument does not: apply it to its parts.");
    const years = counts.get("season")!;
    const pace =
      years === 0
        ? evenPace(compiling, soFar, all, choices.get("by") === "days" ? "day" : "month")
        : seasonalPace(years, (from) => compiling.part(values[0]!, from), { soFar, place: own, whole });
    return { ...multiplication("*", value, pace), unit: value.unit, nature: value.nature, behaviour: "moving" };
  },
};

function evenPace({ clock }: Compiling, soFar: Place, all: Place, unit: "day" | "month"): Typed {
  return multiplication("/", clock(all, "whole", unit), clock(soFar, "elapsed", unit));
}

/** Prior years' wholes over their parts by the same day. */
function seasonalPace(
  years: number,
  read: (place: Place) => Typed,
  { soFar, place, whole }: { soFar: Place; place: Place; whole: Span },
): Typed {
  const at = { from: 0, to: 0 };
  const sum = (places: readonly Place[]) => places.map(read).reduce((total, next) => addition(at, "+", total, next));
  const back = (k: number) => ({ do: "back" as const, months: 12 * k });
  const ks = Array.from({ length: years }, (_, i) => i + 1);
  // A year that is over is formed anew, so that no month after this year's as-of month is cut off from it.
  const wholes = ks.map((k) => inTime(place, back(k), { do: "span", span: whole, whole: true }));
  const parts = ks.map((k) => inTime(soFar, back(k)));
  return multiplication("/", sum(wholes), sum(parts));
}
