import { LATEST, OUTLOOK_ESTIMATES } from "../outlook-source.ts";
import { refuse } from "../expression.ts";
import { isPlain } from "../view.ts";
import { requireNumber } from "../typed.ts";
import type { FormulaFunction } from "./function.ts";

/** The fiscal year as it is expected to end. */
export const outlook: FormulaFunction = {
  name: "outlook",
  group: "Growth and pace",
  parameters: [
    { name: "value", takes: "value", about: "what is added up over the year" },
    {
      name: "from",
      isOption: true,
      takes: "choice",
      of: ["page", LATEST, "budget", ...OUTLOOK_ESTIMATES.map((key) => key.replaceAll("-", "_"))],
      otherwise: "page",
      about: "where the months come from that are not closed",
    },
  ],
  gives:
    "The full fiscal year as it is expected to end: closed months from the actual, the rest from the source that the page chose, which is the latest forecast known by then, or the budget where no forecast has it. Others are the budget, the forecast by model, the run rate with its season, and the prior year grown. Of a plan, its own full year.",
  absence: "Absent where a month of the year is neither closed nor planned.",
  example: "outlook(total_revenue) - full_year(total_revenue@budget)",
  compile: ({ at, values, choices }, place, { nested, nestedInput }) => {
    const { typed, formula } = nested(values[0]!, place);
    requireNumber(at, typed);
    if (!formula.views.every((view) => isPlain({ ...view, scenario: null, scope: [] })))
      refuse(values[0]!, `outlook(…) reads a whole year; "${typed.label}" says a time of its own: leave that out.`);
    const from = choices.get("from")!.replaceAll("_", "-");
    return {
      ...typed,
      said: true,
      behaviour: "moving",
      node: nestedInput("outlook", place, formula, from === "page" ? undefined : from),
    };
  },
};
