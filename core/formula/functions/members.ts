import { inScope, type Place } from "../place.ts";
import type { GatheringHow } from "../node.ts";
import { refuse } from "../expression.ts";
import { isBare } from "../unit.ts";
import { derivedBehaviour, NUMBER, requireNumber, type Typed } from "../typed.ts";
import type { BoundCall, Compiling, FormulaFunction, Parameter } from "./function.ts";

const VALUE: Parameter = { name: "value", takes: "value", about: "what each member or month has" };
const LEVEL: Parameter = {
  name: "level",
  isOption: true,
  takes: "level",
  about: "the level of its hierarchy, in quotes; else the lowest",
};
const OVER: Parameter = {
  name: "over",
  isOption: true,
  takes: "dimension-or-month",
  about: "the dimension whose members are looked at, or month for the months of the span",
};

function ofEachMember({ at, values, dimensions, levelMembers }: BoundCall, place: Place, { part }: Compiling): Typed[] {
  const dimension = dimensions[0]!.key;
  const parts = levelMembers.map((member) =>
    part(values[0]!, inScope(place, { do: "only", dimension, members: [member] })),
  );
  requireNumber(at, parts[0]!);
  return parts;
}

/** What a gathered value is, besides its node: several members' or months' values made one. */
function gatheredType(how: GatheringHow, value: Typed, things: string): Omit<Typed, "node"> {
  if (how === "count") return { ...NUMBER, unit: { kind: "count", of: things }, label: things };
  const { unit, label, nature, gathering } = value;
  const behaviour = how === "sum" ? value.behaviour : derivedBehaviour([value]);
  return { unit, label, nature, gathering, said: true, behaviour: behaviour === "balance" ? "rate" : behaviour };
}

/** Refuses to add up what does not add up: shares and rates of whatever, and balances over months. */
function requireSummable({ at }: BoundCall, { unit, nature }: Typed, things: string): void {
  const isRate = (unit.kind === "plain" && !isBare(unit)) || unit.kind === "per" || unit.kind === "rank";
  const isBalance = things === "months" && nature === "balance";
  if (!isRate && !isBalance) return;
  refuse(
    at,
    `The argument of sum(…) is a ${isRate ? "rate" : "balance"}, which does not add up over ${things}: say mean(…) for its plain mean, or leave sum(…) out to have all ${things} together.`,
  );
}

function gatheringFunction(name: string, how: GatheringHow, gives: string, example: string): FormulaFunction {
  return {
    name,
    group: "Members and months",
    parameters: [VALUE, OVER, LEVEL],
    gives,
    absence:
      how === "deviation"
        ? "What has no figure is passed over; absent where fewer than two have one."
        : "What has no figure is passed over; absent when none has one. A member is looked at within its life only.",
    example,
    compile: (call, place, compiling) => {
      if (call.isOverMonths) {
        const { typed, formula } = compiling.nested(call.values[0]!, place);
        requireNumber(call.at, typed);
        if (how === "sum") requireSummable(call, typed, "months");
        const type = gatheredType(how, typed, "months");
        // A sum of months is what a span has; everything else is calculated anew for each span.
        return {
          ...type,
          behaviour: how === "sum" ? "flow" : "rate",
          node: compiling.nestedInput(how, place, formula),
        };
      }
      const parts = ofEachMember(call, place, compiling);
      if (how === "sum") requireSummable(call, parts[0]!, call.dimensions[0]!.plural);
      const decimals = how === "count" ? 0 : parts[0]!.node.decimals;
      return {
        ...gatheredType(how, parts[0]!, call.dimensions[0]!.plural),
        node: { kind: "gathered", how, every: false, operands: parts.map((p) => p.node), decimals },
      };
    },
  };
}

/** One figure from those of a dimension's members, or of the span's months. */
export const MEMBER_FUNCTIONS: readonly FormulaFunction[] = [
  gatheringFunction(
    "sum",
    "sum",
    "The sum of the values of the members in scope, or of the months of the span.",
    "sum(max(operating_result, 0), over: month)",
  ),
  gatheringFunction(
    "lowest",
    "lowest",
    "The lowest value among the members in scope, or the months of the span.",
    "lowest(on_time_rate, over: route)",
  ),
  gatheringFunction(
    "highest",
    "highest",
    "The highest value among the members in scope, or the months of the span.",
    "highest(total_revenue, over: month)",
  ),
  gatheringFunction(
    "mean",
    "mean",
    "The plain mean of the values: each member or month counts alike.",
    "mean(total_revenue, over: route)",
  ),
  gatheringFunction(
    "median",
    "median",
    "The value in the middle: as many members or months lie above it as below.",
    "median(total_revenue, over: month)",
  ),
  gatheringFunction(
    "standard_deviation",
    "deviation",
    "How far the values spread around their mean: the standard deviation of a sample (divided by n − 1).",
    "standard_deviation(on_time_rate, over: month)",
  ),
  gatheringFunction(
    "members",
    "count",
    "How many members in scope have a figure, or how many months of the span.",
    "members(freight, over: route)",
  ),
];

/** The place of one member among its like. */
export const rank: FormulaFunction = {
  name: "rank",
  group: "Members and months",
  parameters: [
    VALUE,
    { name: "over", isOption: true, takes: "dimension", about: "the dimension whose members are looked at" },
    LEVEL,
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
      ...NUMBER,
      behaviour: derivedBehaviour(all) === "moving" ? "moving" : "rate",
      node: {
        kind: "rank",
        own: compiling.memberAt(place, dimension, call.levelMembers),
        operands: all.map((p) => p.node),
        first: call.choices.get("first") === "lowest" ? "lowest" : "highest",
        decimals: 0,
      },
      unit: { kind: "rank" },
      label: `rank of ${all[0]!.label}`,
    };
  },
};
