import type { AccountUnit } from "../accounts/account.ts";

/**
 * What a formula's result counts. `plain` is a number without a unit: a share, or a bare number such as 12; `truth` is yes
 * (1) or no (0); `rank` a place in an order; `per` one thing by another; `product` anything else.
 */
export type ResultUnit =
  | AccountUnit
  | { readonly kind: "plain"; readonly isBare?: true }
  | { readonly kind: "days" }
  | { readonly kind: "truth" }
  | { readonly kind: "rank" }
  | { readonly kind: "per"; readonly over: string; readonly by: string }
  | { readonly kind: "product"; readonly powers: Powers };

/** Base units with their exponents: money per passenger is { money: 1, passengers: −1 }. */
export type Powers = Readonly<Record<string, number>>;

/** A share, a growth, a ratio of like things: written in percent where nothing else is said. */
export const PLAIN: ResultUnit = { kind: "plain" };
/** A number that is written out or counted, and no share of anything. */
export const BARE: ResultUnit = { kind: "plain", isBare: true };

/** Whether a unit is that of a number which is no share. */
export function isBare(unit: ResultUnit): boolean {
  return unit.kind === "plain" && unit.isBare === true;
}

/** The unit of two plain numbers together: bare only where both are. */
export function plainOf(a: ResultUnit, b: ResultUnit): ResultUnit {
  return isBare(a) && isBare(b) ? BARE : PLAIN;
}
const MONEY = "money";
const DAYS = "days";

/** A unit in words: "money", "passengers", "money per passengers", "plain numbers". */
export function unitName(unit: ResultUnit): string {
  switch (unit.kind) {
    case "money":
    case "days":
      return unit.kind;
    case "count":
      return unit.of;
    case "plain":
      return "plain numbers";
    case "truth":
      return "yes or no";
    case "rank":
      return "a rank";
    case "per":
      return `${unit.over} per ${unit.by}`;
    case "product":
      return productName(unit.powers);
  }
}

/** The unit of a × b. */
export function productUnit(a: ResultUnit, b: ResultUnit): ResultUnit {
  return a.kind === "plain" && b.kind === "plain" ? plainOf(a, b) : unitOf(combined(a, b, 1));
}

/** The unit of a ÷ b. */
export function quotientUnit(a: ResultUnit, b: ResultUnit): ResultUnit {
  return a.kind === "plain" && b.kind === "plain" ? plainOf(a, b) : unitOf(combined(a, b, -1));
}

/** The unit of a to a whole power, or of its root where the exponent is a fraction; `undefined` where there is none. */
export function powerUnit(a: ResultUnit, exponent: number): ResultUnit | undefined {
  const powers = Object.entries(powersOf(a)).map(([base, power]) => [base, power * exponent] as const);
  return powers.every(([, power]) => Number.isInteger(power)) ? unitOf(Object.fromEntries(powers)) : undefined;
}

function powersOf(unit: ResultUnit): Powers {
  switch (unit.kind) {
    case "money":
      return { [MONEY]: 1 };
    case "days":
      return { [DAYS]: 1 };
    case "count":
      return { [unit.of]: 1 };
    case "per":
      return { [unit.over]: 1, [unit.by]: -1 };
    case "product":
      return unit.powers;
    case "plain":
    case "truth":
    case "rank":
      return {};
  }
}

function combined(a: ResultUnit, b: ResultUnit, sign: 1 | -1): Powers {
  const powers: Record<string, number> = { ...powersOf(a) };
  for (const [base, power] of Object.entries(powersOf(b))) powers[base] = (powers[base] ?? 0) + sign * power;
  return powers;
}

function unitOf(powers: Powers): ResultUnit {
  const left = Object.entries(powers).filter(([, power]) => power !== 0);
  if (left.length === 0) return PLAIN;
  const [first, second] = left;
  if (left.length === 1 && first![1] === 1) return single(first![0]);
  if (left.length === 2) {
    const over = left.find(([, power]) => power === 1)?.[0];
    const by = left.find(([, power]) => power === -1)?.[0];
    if (over !== undefined && by !== undefined) {
      // Things counted by other things, such as passengers by seats, make a share: a plain number.
      if (isCounted(first![0]) && isCounted(second![0])) return PLAIN;
      return { kind: "per", over, by };
    }
  }
  return { kind: "product", powers: Object.fromEntries(left) };
}

function single(base: string): ResultUnit {
  if (base === MONEY || base === DAYS) return { kind: base };
  return { kind: "count", of: base };
}

function isCounted(base: string): boolean {
  return base !== MONEY && base !== DAYS;
}

function productName(powers: Powers): string {
  const written = (sign: 1 | -1) =>
    Object.entries(powers)
      .filter(([, power]) => Math.sign(power) === sign)
      .map(([base, power]) => (Math.abs(power) === 1 ? base : `${base}^${Math.abs(power)}`))
      .join(" × ");
  const [over, by] = [written(1), written(-1)];
  return by === "" ? over : `${over || "1"} per ${by}`;
}
