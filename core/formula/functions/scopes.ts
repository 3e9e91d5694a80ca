import { inScope } from "../place.ts";
import { multiplication, requireNumber } from "../typed.ts";
import type { ScopeStep } from "../../dimensions/step-scope.ts";
import type { FormulaFunction } from "./function.ts";

/** The value of some members only. */
export const only: FormulaFunction = {
  name: "only",
  group: "Scope",
  parameters: [
    { name: "value", takes: "value", about: "what is read there" },
    {
      name: "members",
      takes: "members",
      about: 'a dimension with members: route: "Skerry Sound", or route: ["A", "B"]',
    },
  ],
  gives: "The value of the named members only, inside what the page looks at.",
  absence:
    "Absent where the page looks elsewhere, where none of the members exists at that time, or where the value is not kept by that dimension.",
  example: 'only(total_revenue, route: "Skerry Sound")',
  compile: ({ values, members }, place, { part }) =>
    part(
      values[0]!,
      inScope(
        place,
        ...[...members].map(([dimension, chosen]): ScopeStep => ({ do: "only", dimension, members: chosen })),
      ),
    ),
};

/** The value over all members of a dimension, wherever the page looks. */
export const ignoring: FormulaFunction = {
  name: "ignoring",
  group: "Scope",
  parameters: [
    { name: "value", takes: "value", about: "what is read" },
    { name: "dimensions", takes: "dimensions", about: "the dimensions that no longer narrow it" },
  ],
  gives: "The value over all members of the dimensions, whatever the page is narrowed to; never more than you may see.",
  absence: "Absent where the value itself is.",
  example: "total_revenue / ignoring(total_revenue, route)",
  compile: ({ values, dimensions }, place, { part }) =>
    part(values[0]!, inScope(place, ...dimensions.map(({ key }): ScopeStep => ({ do: "ignore", dimension: key })))),
};

/** The part of a total. */
export const share: FormulaFunction = {
  name: "share",
  group: "Scope",
  parameters: [
    { name: "value", takes: "value", about: "what is shared" },
    { name: "of", isOption: true, takes: "dimension", about: "the dimension whose total is 100 %" },
  ],
  gives: "The value here as a share of the value over all members of the dimension.",
  absence: "Absent where the total is zero or not there.",
  example: "share(total_revenue, of: route)",
  compile: ({ at, values, dimensions }, place, { part }) => {
    const own = part(values[0]!, place);
    requireNumber(at, own);
    const total = part(values[0]!, inScope(place, { do: "ignore", dimension: dimensions[0]!.key }));
    return { ...multiplication("/", own, total), label: `share of ${own.label}` };
  },
};
