import { inScope, type Place } from "../place.ts";
import { requireNumber, type Typed } from "../typed.ts";
import type { BoundCall, Compiling, FormulaFunction, Parameter } from "./function.ts";

const PARAMETERS: readonly Parameter[] = [
  { name: "value", takes: "value", about: "what each member has" },
  { name: "over", isOption: true, takes: "dimension", about: "the dimension whose members are looked at" },
  { name: "level", isOption: true, takes: "level", about: "the level of its hierarchy, in quotes; else the lowest" },
];

function ofEachMember({ at, values, dimensions, levelMembers }: BoundCall, place: Place, { part }: Compiling): Typed[] {
  const dimension = dimensions[0]!.key;
  const parts = levelMembers.map((member) =>
    part(values[0]!, inScope(place, { do: "only", dimension, members: [member] })),
  );
  requireNumber(at, parts[0]!);
  return parts;
}

function gatheringFunction(
  name: string,
  how: "lowest" | "highest" | "mean" | "count",
  gives: string,
  example: string,
): FormulaFunction {
  return {
    name,
    group: "Members",
    parameters: PARAMETERS,
    gives,
    absence: "Members without a figure are passed over; absent when none has one.",
    example,
    compile: (call, place, compiling) => {
      const parts = ofEachMember(call, place, compiling);
      const isCount = how === "count";
      return {
        ...parts[0]!,
        node: {
          kind: "gathered",
          how,
          every: false,
          operands: parts.map((p) => p.node),
          decimals: isCount ? 0 : parts[0]!.node.decimals,
        },
        unit: isCount ? { kind: "count", of: call.dimensions[0]!.plural } : parts[0]!.unit,
        behaviour: "rate",
        said: true,
      };
    },
  };
}

/** One figure from those of a dimension's members. */
export const MEMBER_FUNCTIONS: readonly FormulaFunction[] = [
  gatheringFunction(
    "lowest",
    "lowest",
    "The lowest value among the members in scope.",
    "lowest(on_time_rate, over: route)",
  ),
  gatheringFunction(
    "highest",
    "highest",
    "The highest value among the members in scope.",
    "highest(on_time_rate, over: route)",
  ),
  gatheringFunction(
    "mean",
    "mean",
    "The plain mean of the members' values: each member counts alike.",
    "mean(total_revenue, over: route)",
  ),
  gatheringFunction("members", "count", "How many members in scope have a figure.", "members(freight, over: route)"),
];

/** The place of one member among its like. */
export const rank: FormulaFunction = {
  name: "rank",
  group: "Members",
  parameters: [
    ...PARAMETERS,
    {
      name: "first",
      isOption: true,
      takes: "choice",
      of: ["highest", "lowest"],
      otherwise: "highest",
      about: "which value has rank 1",
    },
  ],
  gives:
    "The rank of the member the page is narrowed to (or the row stands for) among all members; equal values share one.",
  absence: "Absent unless it is read for one of these members, and where that one has no figure.",
  example: 'only(rank(total_revenue, over: route), route: "Vardel–Isenholm")',
  compile: (call, place, compiling) => {
    const dimension = call.dimensions[0]!.key;
    const all = ofEachMember(call, inScope(place, { do: "ignore", dimension }), compiling);
    return {
      node: {
        kind: "rank",
        own: compiling.memberAt(place, dimension, call.levelMembers),
        operands: all.map((p) => p.node),
        first: call.choices.get("first") === "lowest" ? "lowest" : "highest",
        decimals: 0,
      },
      unit: { kind: "plain" },
      behaviour: "rate",
      label: `rank of ${all[0]!.label}`,
      said: true,
    };
  },
};
