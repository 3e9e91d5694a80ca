import { powerOfTen, toMajor } from "../../figures/amount.ts";
import { absent, present } from "../../figures/figure.ts";
import type { Figure } from "../../figures/schema.ts";
import type { AppliedRule } from "../node.ts";
import { listed } from "../../formats/listed.ts";
import { nearestName } from "../nearest-name.ts";
import { refuse } from "../expression.ts";
import { derivedBehaviour, NUMBER, requireNumber } from "../typed.ts";
import { BARE, isBare, powerUnit, unitName, type ResultUnit } from "../unit.ts";
import type { FormulaFunction } from "./function.ts";

/** Written in percent, so that its decimals are two more than its own. */
function isShare(unit: ResultUnit): boolean {
  return unit.kind === "plain" && !isBare(unit);
}

const VALUE = { name: "value", takes: "value", about: "a number" } as const;

/** Minor units taken to another number of decimals: so many more, or fewer. */
function roundedBy(shift: number): AppliedRule {
  return {
    name: "rounded",
    settings: [shift],
    overTime: "fixed",
    apply: (minor = 0) => present(rounded(minor, shift)),
  };
}

function powerRule(baseDecimals: number, exponentDecimals: number): AppliedRule {
  return {
    name: "power",
    settings: [baseDecimals, exponentDecimals],
    overTime: "fixed",
    apply: (base = 0, exponent = 0) => powerOf(toMajor(base, baseDecimals), toMajor(exponent, exponentDecimals)),
  };
}

function rootRule(degree: number, decimals: number): AppliedRule {
  return {
    name: "root",
    settings: [degree, decimals],
    overTime: "fixed",
    apply: (minor = 0) => rootOf(toMajor(minor, decimals), degree),
  };
}

/** A number scaled by a power of ten and rounded, halves away from zero; what float64 cannot write exactly is rounded as written. */
function rounded(value: number, shift: number): number {
  const exact = shift >= 0 ? value * powerOfTen(shift) : value / powerOfTen(-shift);
  const written = Number(exact.toPrecision(15));
  return Math.sign(written) * Math.round(Math.abs(written)) || 0;
}

function rootOf(value: number, degree: number): Figure {
  if (value < 0 && degree % 2 === 0) return absent("no base", "An even root of a negative number is not defined.");
  if (degree === 2) return present(Math.sqrt(value));
  return present(Math.sign(value) * Math.abs(value) ** (1 / degree));
}

function powerOf(base: number, exponent: number): Figure {
  if (base === 0 && exponent < 0) return absent("division by zero", "Zero to a negative power divides by zero.");
  const value = base ** exponent;
  if (Number.isNaN(value)) return absent("no base", "This power is no real number.");
  return Number.isFinite(value) ? present(value) : absent("no base", "This power is too large a number.");
}

const round: FormulaFunction = {
  name: "round",
  group: "Numbers",
  parameters: [
    VALUE,
    { name: "decimals", takes: "count", from: 0, to: 9, otherwise: 0, about: "how many decimals are kept" },
  ],
  gives:
    "The value rounded to a number of decimals as it is written, halves away from zero: of a share, those of its percentage.",
  absence: "Absent where the value is.",
  example: "round(onboard_spend, 1)",
  compile: ({ at, values, counts }, place, { part }) => {
    const value = part(values[0]!, place);
    requireNumber(at, value);
    const decimals = counts.get("decimals")! + (isShare(value.unit) ? 2 : 0);
    return {
      ...value,
      behaviour: derivedBehaviour([value]),
      node: { kind: "applied", rule: roundedBy(decimals - value.node.decimals), operands: [value.node], decimals },
    };
  },
};

const power: FormulaFunction = {
  name: "power",
  group: "Numbers",
  parameters: [VALUE, { name: "exponent", takes: "value", about: "a plain number" }],
  gives: "The value to the power of the exponent.",
  absence: "No base where the power is no real number, such as a negative value to the power of 0.5.",
  example: "power(1 + growth(total_revenue, on: prior_year), 3) - 1",
  compile: ({ at, values }, place, { part }) => {
    const [value, exponent] = values.length === 2 ? values.map((v) => part(v, place)) : [];
    if (!value || !exponent) refuse(at, "power(…) takes a value and an exponent.");
    requireNumber(at, value);
    requireNumber(at, exponent);
    if (exponent.unit.kind !== "plain")
      refuse(values[1]!, `An exponent is a plain number; "${exponent.label}" counts ${unitName(exponent.unit)}.`);
    const { node } = exponent;
    const written = node.kind === "constant" ? node.value / 10 ** node.decimals : undefined;
    const unit =
      value.unit.kind === "plain" ? value.unit : written === undefined ? undefined : powerUnit(value.unit, written);
    if (!unit)
      refuse(values[1]!, `"${value.label}" counts ${unitName(value.unit)}: to such a power it would have no unit.`);
    return {
      ...NUMBER,
      behaviour: derivedBehaviour([value, exponent]) === "moving" ? "moving" : "rate",
      label: value.label,
      unit,
      node: {
        kind: "applied",
        rule: powerRule(value.node.decimals, exponent.node.decimals),
        operands: [value.node, exponent.node],
        decimals: 0,
      },
    };
  },
};

const root: FormulaFunction = {
  name: "root",
  group: "Numbers",
  parameters: [
    VALUE,
    { name: "degree", takes: "count", from: 2, to: 12, otherwise: 2, about: "2 for the square root" },
  ],
  gives: "The square root of the value, or one of a higher degree.",
  absence: "No base where the value is negative and the degree even.",
  example: "root(total_revenue / prior_year(total_revenue), 2) - 1",
  compile: ({ at, values, counts }, place, { part }) => {
    const value = part(values[0]!, place);
    requireNumber(at, value);
    const degree = counts.get("degree")!;
    const unit = isBare(value.unit) ? BARE : powerUnit(value.unit, 1 / degree);
    if (!unit) refuse(values[0]!, `"${value.label}" counts ${unitName(value.unit)}: its root would have no unit.`);
    return {
      ...NUMBER,
      behaviour: derivedBehaviour([value]) === "moving" ? "moving" : "rate",
      label: value.label,
      unit,
      node: { kind: "applied", rule: rootRule(degree, value.node.decimals), operands: [value.node], decimals: 0 },
    };
  },
};

const SCALES: Readonly<Record<string, number>> = { units: 0, thousand: 3, million: 6 };

const money: FormulaFunction = {
  name: "money",
  group: "Numbers",
  parameters: [
    { name: "amount", takes: "number", otherwise: null, about: "an amount of the company's currency" },
    {
      name: "in",
      isOption: true,
      takes: "choice",
      of: Object.keys(SCALES),
      otherwise: "units",
      about: "whether it is written in full, in thousands or in millions",
    },
    {
      name: "per",
      isOption: true,
      takes: "counted",
      about: "what it is an amount for each of, as accounts count it; none where it is left out",
    },
  ],
  gives:
    "A fixed amount of money, which can be compared with and added to accounts of money; with per: an amount for each of what an account counts, such as a fee per passenger.",
  absence: "Never absent.",
  example: "if(operating_result > money(1.5, in: million), 1, 0)",
  compile: ({ at, counts, choices, counted }, _place, compiling) => {
    if (counted && !compiling.counted.includes(counted.name)) {
      const near = nearestName(counted.name, compiling.counted);
      const known =
        compiling.counted.length === 0 ? "Nothing is counted here." : `There are ${listed(compiling.counted)}.`;
      refuse(counted.at, `No account counts "${counted.name}".${near ? ` Is "${near}" meant?` : ""} ${known}`);
    }
    const amount = counts.get("amount")!;
    const decimals = 2;
    const value = Number((amount * 10 ** (SCALES[choices.get("in")!]! + decimals)).toPrecision(15));
    if (!Number.isSafeInteger(value)) refuse(at, "An amount of money has at most two decimals and fifteen digits.");
    return {
      ...NUMBER,
      behaviour: "constant",
      label: `money(${amount})`,
      unit: counted ? { kind: "per", over: "money", by: counted.name } : { kind: "money" },
      node: { kind: "constant", value, decimals },
    };
  },
};

/** Numbers changed, and amounts of money written out. */
export const NUMBER_FUNCTIONS: readonly FormulaFunction[] = [round, power, root, money];
