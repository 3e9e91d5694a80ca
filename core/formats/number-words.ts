import { moneySign } from "./currency.ts";
import { numberMarks } from "./writing.ts";
import type { KpiUnit } from "../figures/schema.ts";

/** The units money is shown in. */
export const MONEY_UNITS = ["units", "thousand", "million"] as const;
export type MoneyUnit = (typeof MONEY_UNITS)[number];

/** Whether a text names a unit of money. */
export function isMoneyUnit(text: string): text is MoneyUnit {
  return MONEY_UNITS.some((unit) => unit === text);
}

/** The typographic minus. */
export const MINUS = "−";

const MONEY_SCALE: Readonly<Record<MoneyUnit, { divisor: number; suffix: string; decimals: number }>> = {
  units: { divisor: 1, suffix: "", decimals: 0 },
  thousand: { divisor: 1_000, suffix: "k", decimals: 0 },
  million: { divisor: 1_000_000, suffix: "m", decimals: 2 },
};

/** Writes a number with grouped thousands, a fixed number of decimals and a true minus; −0 becomes 0. */
export function formatNumber(value: number, decimals: number): string {
  return formatDigits(Math.abs(value).toFixed(decimals), value < 0);
}

/** Writes plain digits, such as "1234.50", in the way numbers are written now; a zero has no sign. */
export function formatDigits(digits: string, isNegative: boolean): string {
  const { group, decimal } = numberMarks();
  const [whole, fraction] = digits.split(".");
  const grouped = whole!.replace(/\B(?=(\d{3})+$)/g, group);
  return `${isNegative && saysSomething(digits) ? MINUS : ""}${grouped}${fraction ? `${decimal}${fraction}` : ""}`;
}

/** Whether a written number has other digits than noughts. */
function saysSomething(text: string): boolean {
  return /[1-9]/.test(text);
}

/** How a KPI's values are written: what to multiply by, with how many decimals, and the unit's name. */
export interface NumberStyle {
  readonly factor: number;
  readonly decimals: number;
  /** Written in front of and behind a lone figure. */
  readonly prefix: string;
  readonly suffix: string;
  /** Written once, in headers. */
  readonly unitName: string;
}

/** A unit of money by its name: "€", "€ thousand". */
export function moneyName(money: MoneyUnit): string {
  return money === "units" ? moneySign() : `${moneySign()} ${money}`;
}

/** The style of a KPI's values in the reader's money unit. */
export function valueStyle(unit: KpiUnit, decimals: number, money: MoneyUnit): NumberStyle {
  switch (unit.kind) {
    case "money": {
      const scale = MONEY_SCALE[money];
      return {
        factor: 1 / scale.divisor,
        decimals: unit.decimals ?? scale.decimals,
        prefix: `${moneySign()} `,
        suffix: scale.suffix,
        unitName: moneyName(money),
      };
    }
    case "money-per":
      return { factor: 1, decimals, prefix: `${moneySign()} `, suffix: "", unitName: `${moneySign()} per ${unit.per}` };
    case "count":
      return { factor: 1, decimals, prefix: "", suffix: "", unitName: unit.of };
    case "percent":
      return { factor: 100, decimals, prefix: "", suffix: "%", unitName: "%" };
    case "days":
      return { factor: 1, decimals, prefix: "", suffix: " days", unitName: "days" };
    case "ratio":
      return { factor: 1, decimals, prefix: "", suffix: "", unitName: unit.of };
  }
}

/** The style of a KPI's differences: percentages differ in points. */
export function deltaStyle(unit: KpiUnit, decimals: number, money: MoneyUnit): NumberStyle {
  const style = valueStyle(unit, decimals, money);
  return unit.kind === "percent" ? { ...style, suffix: " pts", unitName: "pts" } : style;
}

/** The figure alone, for columns that name their unit once. What is not zero is not written as zero. */
export function writeNumber(value: number, style: NumberStyle): string {
  const scaled = value * style.factor;
  return formatNumber(scaled, style.decimals + moreDecimals(scaled, style.decimals));
}

/** As many decimals more show of a small number what it is; what is smaller still is no more than what calculating leaves. */
const MOST_MORE = 3;

function moreDecimals(scaled: number, decimals: number): number {
  for (let more = 0; more <= MOST_MORE; more += 1)
    if (saysSomething(Math.abs(scaled).toFixed(decimals + more))) return more;
  return 0;
}

/** The figure with its unit: "€ 212k", "−3.4%", "1.2 pts". */
export function writeWithUnit(value: number, style: NumberStyle): string {
  const text = writeNumber(value, style);
  return text.startsWith(MINUS)
    ? `${MINUS}${style.prefix}${text.slice(1)}${style.suffix}`
    : `${style.prefix}${text}${style.suffix}`;
}

/** The same with its sign always written: "+€ 212k"; nothing for a written zero. */
export function writeSigned(value: number, style: NumberStyle): string {
  const text = writeWithUnit(value, style);
  return value <= 0 || !saysSomething(text) ? text : `+${text}`;
}

/** Whether rounding to the style's own decimals leaves only zeros: too little to be worth a word. */
export function isWrittenZero(value: number, style: NumberStyle): boolean {
  return !saysSomething(formatNumber(value * style.factor, style.decimals));
}

/** A fraction as a percentage with one decimal: 0.034 is "3.4%". */
export function writePercent(fraction: number): string {
  return `${formatNumber(fraction * 100, 1)}%`;
}

/** A percentage with its sign; one that is written as zero has none: "+3.4%", "−0.5%", "0.0%". */
export function writeSignedPercent(fraction: number): string {
  const text = writePercent(fraction);
  return fraction > 0 && saysSomething(text) ? `+${text}` : text;
}
