import { absent, present } from "../../figures/figure.ts";
import type { AppliedRule } from "../node.ts";
import { derivedBehaviour, NUMBER, requireNumber } from "../typed.ts";
import { PLAIN } from "../unit.ts";
import { inTime } from "../place.ts";
import type { TimeStep } from "../view.ts";
import type { FormulaFunction } from "./function.ts";
import { asMoving } from "./spans.ts";

/** (now − before) / |before|. */
const ON_BEFORE: AppliedRule = {
  name: "growth",
  settings: [],
  overTime: "ratio",
  apply: (now = 0, before = 0) =>
    before === 0
      ? absent("no base", "The earlier value is zero, so growth is undefined.")
      : present((now - before) / Math.abs(before)),
};

/** Growth on an earlier time, like for like. */
export const growth: FormulaFunction = {
  name: "growth",
  group: "Growth and pace",
  parameters: [
    { name: "value", takes: "value", about: "what grows" },
    {
      name: "on",
      isOption: true,
      takes: "choice",
      of: ["prior_period", "prior_year"],
      otherwise: "prior_period",
      about: "what it is compared with",
    },
  ],
  gives: "The change from the earlier time as a share of it: (now − before) ÷ |before|, on the months that both cover.",
  absence: "No base where the earlier value is zero or not there.",
  example: "growth(total_revenue, on: prior_year)",
  compile: ({ at, values, choices }, place, { part }) => {
    const step: TimeStep = choices.get("on") === "prior_year" ? { do: "back", months: 12 } : { do: "prior-period" };
    const now = part(values[0]!, place);
    requireNumber(at, now);
    const before = part(values[0]!, inTime(place, step));
    return {
      node: { kind: "applied", rule: ON_BEFORE, operands: [now.node, before.node], decimals: 0 },
      unit: PLAIN,
      ...NUMBER,
      behaviour: derivedBehaviour([now]) === "moving" ? "moving" : "rate",
      label: `growth of ${now.label}`,
    };
  },
};

/** (now / before)^(1 / years) − 1. */
function compoundOver(years: number): AppliedRule {
  return {
    name: "compound growth",
    settings: [years],
    overTime: "ratio",
    apply: (now = 0, before = 0) =>
      now > 0 && before > 0
        ? present((now / before) ** (1 / years) - 1)
        : absent("no base", "Compound growth needs a positive value at both ends."),
  };
}

/** Compound growth a year over several years. */
export const compoundGrowth: FormulaFunction = {
  name: "compound_growth",
  group: "Growth and pace",
  parameters: [
    { name: "value", takes: "value", about: "what grows" },
    { name: "years", takes: "count", from: 1, to: 20, otherwise: null, about: "over how many years" },
  ],
  gives:
    "The growth in each year that leads from the value years ago to the value now: (now ÷ before)^(1 ÷ years) − 1.",
  absence: "No base unless both values are positive.",
  example: "compound_growth(trailing(total_revenue), 2)",
  compile: ({ at, values, counts }, place, { part }) => {
    const years = counts.get("years")!;
    const now = part(values[0]!, place);
    requireNumber(at, now);
    const before = part(values[0]!, inTime(place, { do: "back", months: 12 * years }));
    return {
      node: { kind: "applied", rule: compoundOver(years), operands: [now.node, before.node], decimals: 0 },
      unit: PLAIN,
      ...NUMBER,
      behaviour: derivedBehaviour([now]) === "moving" ? "moving" : "rate",
      label: `growth of ${now.label}`,
    };
  },
};

/** The mean of the last months. */
export const movingAverage: FormulaFunction = {
  name: "moving_average",
  group: "Growth and pace",
  parameters: [
    { name: "value", takes: "value", about: "what is averaged, month by month" },
    { name: "months", takes: "count", from: 2, to: 36, otherwise: 3, about: "over how many months" },
    {
      name: "at",
      isOption: true,
      takes: "choice",
      of: ["end", "middle"],
      otherwise: "end",
      about: "whether the as-of month ends the months or stands in their middle",
    },
  ],
  gives: "The mean of the value in the last months, each month counted alike.",
  absence: "Absent until all of the months have figures.",
  example: "moving_average(fuel_share, 3)",
  compile: ({ at, values, counts, choices }, place, { part }) => {
    const months = counts.get("months")!;
    const newest = choices.get("at") === "middle" ? Math.floor((months - 1) / 2) : 0;
    const parts = Array.from({ length: months }, (_, i) =>
      part(values[0]!, inTime(place, { do: "last" }, ...backBy(i - newest))),
    );
    requireNumber(at, parts[0]!);
    return {
      ...asMoving(parts[0]!),
      node: {
        kind: "gathered",
        how: "mean",
        every: true,
        operands: parts.map((p) => p.node),
        decimals: parts[0]!.node.decimals,
      },
      said: true,
    };
  },
};

function backBy(months: number): TimeStep[] {
  return months === 0 ? [] : [{ do: "back", months }];
}
